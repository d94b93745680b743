import { generateNKeysBetween } from 'fractional-indexing'
import { newPage } from '#core/change'
import { encodePath, escapeAttribute, fileSyntaxOf, type Range, readHtml } from '#core/markup'
import { splitReference } from '#core/links'
import { namesOf } from '#core/naming'
import {
  count,
  defaultChecking,
  defaultOutput,
  defaultScheme,
  type Hash,
  type Page,
  type Scheme,
  type Site,
  type Template,
  homeNameOf,
} from '#core/site'
import { heldAgainstOriginals, languagesOf, withTranslations } from '#core/plan'
import { homeFileOf, defaultTemplate, pageTitle } from '#core/template'
import { withoutBases } from './reading/base-address'
import { hostFolderIn, rootedIn } from './reading/host-folder'
import { publicAddressIn } from './reading/public-address'
import { remarksOfShortNames } from './reading/short-names'
import { type BroughtFile, commonFolder, type Remark } from './brought'
import { groupPages } from './framing/frame'
import type { Group } from './framing/group'
import type { FrameMark } from './framing/frame-marks'
import { findParts } from './framing/generated-of'
import { type CorrectedPage, correctPlan } from './corrected-plan'
import { type BringingTools, type FoundTemplate, liftPages, mendedFile } from './framing/lift-pages'
import type { Goals } from './framing/lift-template'
import { withoutForwarders } from './forwarding'
import { oldNamesOf, type OldNames, onHost } from './old-names'
import { asItWas, type PageAsItWas, type ReadPage, readPages } from './reading/read-page'
import { inTheirLanguages, saidLanguage } from './languages'
import { type PlanBy, type PlannedPage, planOf } from './plan-of'
import { withNewNames, withOldNames } from './scheme-of'
import { templatesBelow } from './templates-below'
import { withDates } from './dates'
import { readTitles } from './titles'
import { translationsIn } from './translations'
import { whyNoPage } from './why-no-page'

/** How a site is brought in. */
export interface BringingChoices {
  /** The scheme that names everything afresh; null keeps names as they are. */
  readonly scheme: Scheme | null
  /** Whether what pages share becomes templates; each page is kept whole otherwise. */
  readonly lifts: boolean
  /** Whether menus that follow the plan become generated ones; they stay as they are otherwise. */
  readonly generates: boolean
  /** What the plan is taken from; all that tells it where nothing is said. */
  readonly planBy?: PlanBy
  /** The plan as its author corrected it. */
  readonly plan?: readonly CorrectedPage[]
  /** Where its author moved the edges of slots. */
  readonly marks?: readonly FrameMark[]
}

/** A site that exists already, as it would be here. */
export interface Understood {
  readonly site: Site
  readonly templates: readonly FoundTemplate[]
  readonly old: OldNames
  readonly pages: readonly PageAsItWas[]
  /** Where a page had what a generated part makes now. */
  readonly madeIn: ReadonlyMap<string, readonly Range[]>
  readonly remarks: readonly Remark[]
}

/** Pages in the order and under the parents of a plan. */
function pagesOf(plan: readonly PlannedPage[], emptyContent: Hash): Page[] {
  const byParent = new Map<string | null, string[]>()
  for (const { id, parentId } of plan) byParent.set(parentId, [...(byParent.get(parentId) ?? []), id])
  const orderOf = new Map<string, string>()
  for (const ids of byParent.values()) {
    const keys = generateNKeysBetween(null, null, ids.length)
    for (const [index, id] of ids.entries()) orderOf.set(id, keys[index]!)
  }
  return plan.map(({ id, label, parentId, inMenu }, index) => ({
    ...newPage(id, label, index + 1, emptyContent),
    parentId,
    order: orderOf.get(id)!,
    inMenus: inMenu,
  }))
}

/** Pages that are read for their language where none says it, and letters of each at the most. */
const mostTold = 20
const longestTold = 100_000

/** The language that most pages say, of two the home page's; where none says any, as pages of old days, the one that most are in. */
function languageOf(pages: readonly ReadPage[], home: ReadPage): string {
  const counts = new Map<string, number>()
  for (const page of [home, ...pages.filter((one) => one !== home)]) {
    const said = saidLanguage(page)
    if (said !== null) counts.set(said, (counts.get(said) ?? 0) + 1)
  }
  if (counts.size === 0)
    for (const { text } of pages.filter(({ text }) => text.length <= longestTold).slice(0, mostTold)) {
      const told = readHtml(text, true).language
      if (told !== undefined) counts.set(told, (counts.get(told) ?? 0) + 1)
    }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'en'
}

/** Whether a home page's title says what site it is, and not only that it is the home page of one; an archive's name says less. */
const isTelling = (title: string | null): title is string =>
  title !== null &&
  title.length <= 60 &&
  !/^(home(\s?page)?|welcome!?|index|start(\s?page|seite)?|main(\s?page)?|accueil|inicio|untitled.*|new page.*)$/i.test(
    title.trim(),
  )

/** Whether links to home pages of folders mostly name the folder. */
function namesFolders(pages: readonly ReadPage[], old: Pick<OldNames, 'resolve'>): boolean {
  let folders = 0
  let files = 0
  for (const { path, references } of pages)
    for (const { href, holder } of references) {
      if (holder !== 'a href') continue
      const { path: named } = splitReference(href.trim())
      const isFolder = /(^|\/)\.{0,2}$/.test(named)
      if (named === '' || (!isFolder && homeNameOf(named) === null)) continue
      if (old.resolve(href.trim(), path).kind !== 'page') continue
      if (isFolder) folders++
      else files++
    }
  return folders > files
}

/** Style sheets of the site that a page links, where they stand from now on, in its order. */
function stylesOf(page: ReadPage, { old, names }: Goals, files: readonly BroughtFile[]): string[] {
  const sheets = new Set(files.flatMap(({ path, kind }) => (kind === 'style' ? [old.idOf.get(path)] : [])))
  const linked = [...page.references].flatMap(({ href, holder }) => {
    const target = holder === 'link href' ? old.resolve(href.trim(), page.path) : null
    return target?.kind === 'file' && sheets.has(target.id) ? [names.files.get(target.id)!] : []
  })
  return [...new Set(linked)]
}

/** The template of a new site, with style sheets that are there already. */
function templateLinking(styles: readonly string[]): string {
  const links = styles.map(
    (path) => `    <link rel="stylesheet" href="/${escapeAttribute(encodePath(path))}">\n`,
  )
  return defaultTemplate.replace(/^ *<link rel="stylesheet".*\n/m, () => links.join(''))
}

/** What is said of pages whose host puts parts into them. */
export const remarksOfIncludes = (pageFiles: readonly BroughtFile[]): Remark[] =>
  pageFiles
    .filter(({ path }) => /\.shtml$/i.test(path))
    .map(({ path }) => ({
      path,
      why: 'It has parts that its host puts in; they stay as the comments that they are, which it fills where a page is called .shtml.',
    }))

/** What pages name from their host's top that lies beside the folder of it that the site stood in. */
const besideOnHost = (files: readonly BroughtFile[], { names, resolve }: OldNames): string[] =>
  [...rootedIn(files)]
    .map((path) => `/${path}`)
    .filter((href) => onHost(href, names) !== null && resolve(href, '').kind === 'elsewhere')

/**
 * Understands a site from its files: the plan its pages follow, the templates they share, what they are called,
 * and where every reference leads. Nothing of it is thrown away: what fits no frame is kept whole.
 */
export function understand(
  brought: readonly BroughtFile[],
  name: string,
  { scheme, lifts, generates, planBy, plan: corrected, marks }: BringingChoices,
  tools: BringingTools,
): Understood | { readonly refusal: string } {
  const { newId, put, sizeOf } = tools
  const common = commonFolder(brought.map(({ path }) => path))
  const { files, remarks: ofBases } = withoutBases(
    brought.map((file) => ({ ...file, path: file.path.slice(common.length) })),
  )
  const pageFiles = files.filter((file) => file.kind === 'page')
  if (pageFiles.length === 0) return { refusal: whyNoPage(files) }
  const remarks: Remark[] = [...ofBases]
  const publicAddress = publicAddressIn(files)
  const old = oldNamesOf(files, () => newId(), publicAddress, hostFolderIn(files, publicAddress))
  const { pages, addressesOf } = withoutForwarders(readPages(pageFiles, old, tools.onPage))
  for (const [id, addresses] of addressesOf)
    for (const path of addresses) {
      const to = pages.find((page) => page.id === id)!.path
      remarks.push({ path, why: `It only sent visitors on to ${to}: a forwarding page does so from now on.` })
    }
  const titles = readTitles(pages)
  const found = planOf(pages, old, titles.titleOf, titles.siteName, planBy)
  const { home } = found
  const plan = corrected ? correctPlan(found.plan, home.id, corrected, old.idOf) : found.plan
  const homeTitle = titles.titleOf(home)
  const telling = isTelling(homeTitle) ? homeTitle : null
  const siteName = (titles.siteName ?? telling ?? (name.trim() || homeTitle) ?? 'A site').slice(0, 200)
  const emptyContent = put('')
  const titleById = new Map(pages.map((page) => [page.id, titles.titleOf(page)]))
  const byId = new Map(pages.map((page) => [page.id, page]))
  const otherFiles = files.filter((file) => file.kind !== 'page')
  const usesCrlf = pageFiles.filter(({ text = '' }) => text.includes('\r\n')).length * 2 > pageFiles.length
  const language = languageOf(pages, home)
  const spokenPages = inTheirLanguages(
    pagesOf(plan, emptyContent),
    (id) => saidLanguage(byId.get(id)!),
    () => language,
  )
  const { of: languageIn } = languagesOf({ pages: spokenPages, homeId: home.id, language })
  const planned = withDates(spokenPages, (id) => byId.get(id)!.path, languageIn)
  const draft: Site = {
    id: newId(),
    name: siteName,
    language,
    titlePattern: titles.pattern,
    // Of many sites the home page alone says more than its name.
    homeTitlePattern: titles.follows(home) || !home.title?.text ? '' : '{page}',
    publicAddress,
    homeId: home.id,
    templateId: '',
    output: {
      ...defaultOutput,
      lineEnd: usesCrlf ? 'crlf' : 'lf',
      ...(namesFolders(pages, old) && { links: 'folders' as const }),
    },
    checking: defaultChecking,
    ownWords: [],
    scheme: scheme ?? defaultScheme,
    nextSeq: files.length + 1,
    pages: planned.map((page) => {
      const title = titleById.get(page.id) ?? null
      return {
        ...page,
        title: title === page.label ? null : title,
        titleAlone: page.id !== home.id && title !== null && !titles.follows(byId.get(page.id)!),
        description: byId.get(page.id)!.description?.text || null,
      }
    }),
    files: otherFiles.map(({ path, kind, hash, sizeBytes }, index) => ({
      id: old.idOf.get(path)!,
      kind: kind as Exclude<BroughtFile['kind'], 'page'>,
      label: path.slice(path.lastIndexOf('/') + 1),
      seq: pages.length + index + 1,
      hash,
      sizeBytes,
    })),
    templates: [],
  }
  if (publicAddress === '' && old.hostFolder !== '')
    remarks.push({
      path: home.path,
      why: `References begin with “/${old.hostFolder}”: that is taken for the folder of its host that the site stood in.`,
    })
  const beside = publicAddress === '' ? [] : besideOnHost(files, old)
  if (beside.length > 0)
    remarks.push({
      path: home.path,
      why: `“${beside[0]!}”${beside.length > 1 ? ` and ${count(beside.length - 1, 'other')} lie` : ' lies'} beside the site on its host: named in full from now on, wherever the site stands.`,
    })
  const spoken = languagesOf(draft)
  const inDraft = new Map(draft.pages.map((page) => [page.id, page]))
  const said = translationsIn(pages, (id) => spoken.of(inDraft.get(id)!))
  const translated = { ...draft, pages: withTranslations(draft, said) }
  const named = scheme ? withNewNames(translated, scheme, old) : withOldNames(translated, files, old)
  const names = namesOf(named)
  const pageById = new Map(named.pages.map((page) => [page.id, page]))
  const languages = languagesOf(named)
  const goals: Goals = {
    old,
    names,
    homeFile: homeFileOf(named),
    languageOf: (id) => languages.of(pageById.get(id)!),
  }

  const nameOf = (id: string) => pageTitle(pageById.get(id)!)
  const groups = lifts
    ? groupPages(pages, (some) => (generates ? findParts(some, named) : []), nameOf, marks)
    : pages.map((page): Group => ({ pages: [page], gaps: [], parts: [], said: new Map(), own: [] }))
  const lifted = liftPages(
    groups,
    nameOf,
    goals,
    tools,
    (nth) => (nth === null ? 'Whole pages' : nth === 0 ? 'Shared template' : `Template ${nth + 1}`),
    // Pages of one kind may have titles of another: those that forward, say.
    ({ pages: some }) => (some.some(titles.follows) ? '{title}' : '{page}'),
  )
  const { found: foundTemplates, held, madeIn } = lifted
  const templates: Template[] = [...lifted.templates]
  // For pages that are added later there is a template that has a frame.
  if (foundTemplates.every(({ isWhole }) => isWhole))
    templates.unshift({
      ...{ id: newId(), name: 'Shared template', basedOn: null },
      source: put(templateLinking(stylesOf(home, goals, otherFiles))),
    })

  const fileOf = new Map(otherFiles.map((file) => [old.idOf.get(file.path)!, file]))
  const styled = named.files.map((file) => {
    const was = fileOf.get(file.id)!
    const to = names.files.get(file.id)!
    if (to !== was.path) remarks.push({ path: was.path, why: `It stands at ${to} now.` })
    const syntax = fileSyntaxOf(was.path, was.sizeBytes)
    if (syntax === null || was.text === undefined) return file
    const text = mendedFile(was.text, syntax, was.path, to, goals)
    if (text === was.text) return file
    return { ...file, hash: put(text), sizeBytes: sizeOf(text) }
  })
  const usual = templates[0]!.id
  const wholes = new Set(foundTemplates.flatMap((one) => (one.isWhole ? [one.templateId] : [])))
  const inTemplates = templatesBelow(
    named.pages,
    (id) => held.get(id)!.templateId,
    () => usual,
    (id) => !wholes.has(id),
  )
  const made: Site = {
    ...named,
    templateId: usual,
    templates,
    files: styled,
    pages: inTemplates.map((page) => {
      const { templateId: _, ...stored } = held.get(page.id)!
      return {
        ...page,
        addresses: [...page.addresses, ...(addressesOf.get(page.id) ?? [])],
        ...stored,
      }
    }),
  }
  // Pages that come in as translations are taken to say what their originals do.
  const isPage = new Set(made.pages.map(({ id }) => id))
  const site = { ...made, pages: heldAgainstOriginals(made, isPage) }
  remarks.push(...remarksOfShortNames(pages, old.resolve), ...remarksOfIncludes(pageFiles))
  return {
    site,
    templates: foundTemplates,
    old,
    pages: pages.map((page) => asItWas(page, tools.aside)),
    madeIn,
    remarks,
  }
}
