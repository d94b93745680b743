import type { BuildSources } from '#core/build'
import { type BringIn, type BroughtAnew, edit, newPage } from '#core/change'
import { checkOwnName, namesOf } from '#core/naming'
import { branchOf, languagesOf, treeOf, withTranslations } from '#core/plan'
import { emptyHash, type Page, type SiteFile, homeNameOf } from '#core/site'
import { homeFileOf, inheritedTemplate } from '#core/template'
import { type BesideSite, holdBeside, type SamePage } from './beside-site'
import { type BroughtFile, folderOf, type Remark } from '../brought'
import { withoutBases } from '../reading/base-address'
import { remarksOfShortNames } from '../reading/short-names'
import { encodePath, fileSyntaxOf } from '#core/markup'
import { type BringingTools, mendedFile } from '../framing/lift-pages'
import type { Goals } from '../framing/lift-template'
import { oldNamesOf } from '../old-names'
import { hostFolderIn } from '../reading/host-folder'
import { asItWas, type ReadPage, readPages } from '../reading/read-page'
import { withDates } from '../dates'
import { inTheirLanguages, saidLanguage } from '../languages'
import { translationsIn } from '../translations'
import { planOf } from '../plan-of'
import { ownNameOf } from '../scheme-of'
import { readTitles, titleWithout } from '../titles'
import { remarksOfIncludes, type Understood } from '../understand'
import { templatesBelow } from '../templates-below'
import { whyNoPage } from '../why-no-page'
import { keepPlaces } from './keep-places'
import { inOwnFrame, inThatFrame, type Into, type Placing } from './written-for'

/** Pages of elsewhere as they would join a site. */
export interface Joined extends Understood {
  readonly change: BringIn
  /** The folder of the site that the files are thought to come from; '' for its top. */
  readonly base: string
  /** What the site has already at the same addresses. */
  readonly same: readonly SamePage[]
  /** New pages and those that hold something else, in the order of the plan. */
  readonly comes: readonly { readonly id: string; readonly isNew: boolean }[]
}

/** New pages under the pages that they come under, in the order of their plan. */
function placePages(
  taken: readonly ReadPage[],
  into: Into,
  { beside, same }: BesideSite,
  old: Understood['old'],
) {
  const { site, parentId } = into
  const titles = readTitles(taken)
  /** What is left of a title by the pattern that the site has already; null where it does not follow that. */
  const titleHere = ({ title }: ReadPage) => title && titleWithout(title.text, site.titlePattern, site.name)
  const titleOf = (page: ReadPage) => titleHere(page) ?? titles.titleOf(page)
  /** A page's own title, and whether it is the whole of it: neither this site's pattern nor the one it comes with is its. */
  const titledAs = (page: ReadPage, label: string): Pick<Page, 'title' | 'titleAlone'> => {
    const title = titleOf(page)
    const titleAlone = title !== null && titleHere(page) === null && !titles.follows(page)
    return { title: title === label ? null : title, titleAlone }
  }
  const { home, plan } = planOf(taken, old, titleOf, titles.siteName)
  const isAnew = new Set(taken.filter(({ path }) => same.has(path)).map(({ id }) => id))
  const pathOf = new Map(taken.map(({ id, path }) => [id, path]))
  const isFront = homeNameOf(home.path) !== null && !isAnew.has(home.id) && plan.length > 1
  const tree = treeOf(site)
  const branch = parentId === null ? null : new Set(branchOf(tree, parentId).map(({ id }) => id))
  /** The page, of those where they come, that is the home of a folder of the site, or of one above it. */
  const sectionOf = (path: string): string | null => {
    for (let folder = folderOf(beside.base + path); folder !== ''; folder = folderOf(folder.slice(0, -1))) {
      const there = beside.names.byPath.get(folder + beside.homeFile)
      if (there?.kind === 'page' && there.id !== site.homeId && (branch?.has(there.id) ?? true))
        return there.id
    }
    return null
  }
  const placed = plan
    .filter(({ id }) => !isAnew.has(id))
    .map((one) => ({
      ...one,
      // Another site's front page speaks for what is below it.
      label: one.id === home.id && isFront && titles.siteName ? titles.siteName : one.label,
      parentId:
        one.parentId ??
        (isFront && one.id !== home.id ? home.id : (sectionOf(pathOf.get(one.id)!) ?? parentId)),
    }))
  // A menu that is here is not made ten times as long by what comes: its author says what of it stands there.
  const atTop = placed.filter((one) => one.parentId === null && one.id !== home.id)
  const leftOut = new Set(atTop.length > mostInMenu ? atTop.map(({ id }) => id) : [])
  return {
    titles,
    titledAs,
    placed: placed.map((one) => (leftOut.has(one.id) ? { ...one, inMenu: false } : one)),
    isAnew,
    leftOut,
  }
}

/** Pages that may join the top level of a site in its menus. */
const mostInMenu = 5

/**
 * Pages of elsewhere as they join a site: under a page of it, beside what it has, with references that lead to
 * each other and to what the site has at the same addresses. What the site has is left as it is where it is not
 * to be replaced.
 * @param sources texts of the site's templates, and of the pages that its own frame is read from
 */
export function joinSite(
  brought: readonly BroughtFile[],
  name: string,
  into: Into,
  tools: BringingTools,
  sources: BuildSources,
): Joined | { readonly refusal: string } {
  if (!brought.some(({ kind }) => kind === 'page')) return { refusal: whyNoPage(brought) }
  const { newId, put, sizeOf } = tools
  const site = into.site
  const parentId = into.parentId === site.homeId ? null : into.parentId
  const held = holdBeside(brought, site, parentId)
  const { beside, identical } = held
  const { files, remarks: ofBases } = withoutBases(held.files)
  const isKept = into.same !== 'beside'
  const idFor = (path: string): string =>
    identical.get(path) ?? (isKept ? held.same.get(path)?.id : undefined) ?? newId()
  const { publicAddress } = site
  const here = publicAddress === '' ? '' : publicAddress + encodePath(beside.base)
  // They may come from elsewhere than they go to.
  const hostFolder = hostFolderIn(files, '') || hostFolderIn(files, here)
  const old = oldNamesOf(files, idFor, here, hostFolder, beside)
  const isLeft = ({ path }: BroughtFile) =>
    identical.has(path) || (into.same === 'leave' && held.same.has(path))
  const coming = files.filter((file) => !isLeft(file))
  const pageFiles = coming.filter(({ kind }) => kind === 'page')
  const otherFiles = coming.filter(({ kind }) => kind !== 'page')
  const pages = readPages(pageFiles, old, tools.onPage)
  const same = [...held.same.values()]
  const remarks: Remark[] = [...identical].map(([path]) => ({
    path: beside.base + path,
    why: 'The site has this file to the byte, so that one is used.',
  }))
  const comingPaths = new Set(coming.map(({ path }) => path))
  for (const { path, why } of ofBases)
    if (comingPaths.has(path)) remarks.push({ path: beside.base + path, why })
  if (into.same === 'leave')
    for (const { path, kind } of same)
      remarks.push({ path, why: `This ${kind} is here already, and stays as it is.` })
  const nothing: BringIn = { pages: [], files: [], templates: [], anew: [], filesAnew: [] }
  if (pages.length === 0)
    return {
      site,
      templates: [],
      old,
      pages: [],
      madeIn: new Map(),
      remarks,
      change: nothing,
      base: beside.base,
      same,
      comes: [],
    }

  const anewHere: BesideSite = isKept ? held : { ...held, same: new Map() }
  const { titles, titledAs, placed, isAnew, leftOut } = placePages(
    pages,
    { ...into, parentId },
    anewHere,
    old,
  )
  const byId = new Map(pages.map((page) => [page.id, page]))
  const spoken = languagesOf(site)
  const spokenAt = (under: string | null) => {
    const above = under === null ? undefined : treeOf(site).byId.get(under)
    return above ? spoken.of(above) : site.language
  }
  const inLanguages = inTheirLanguages(placed, (id) => saidLanguage(byId.get(id)!), spokenAt)
  const inTime = withDates(
    inLanguages,
    (id) => byId.get(id)!.path,
    ({ language, parentId: under }) => language ?? spokenAt(under),
    (id) => treeOf(site).byId.get(id)?.dated ?? false,
  )
  const namedPages = inTime.map(
    ({ id, label, parentId: under, inMenu, language, dated, date }): Omit<Page, 'order' | 'seq'> => {
      const page = byId.get(id)!
      const ownName = ownNameOf(page.path, site.scheme.homeName, true)
      const keeps = into.names === 'kept' && checkOwnName(ownName, site.scheme, site.language) === null
      const isHomeFile = homeNameOf(page.path) !== null && folderOf(page.path) === ''
      return {
        ...newPage(id, label, 0, emptyHash),
        parentId: under,
        inMenus: inMenu,
        language,
        dated,
        date,
        ownName: keeps && !isHomeFile ? ownName : null,
        ...titledAs(page, label),
        description: page.description?.text || null,
      }
    },
  )
  const isFileAnew = ({ path }: BroughtFile) => isKept && held.same.has(path)
  const namedFiles = otherFiles
    .filter((file) => !isFileAnew(file))
    .map(({ path, kind, hash, sizeBytes }): Omit<SiteFile, 'seq'> => ({
      id: old.idOf.get(path)!,
      kind: kind as SiteFile['kind'],
      label: path.slice(path.lastIndexOf('/') + 1),
      hash,
      sizeBytes,
    }))
  const named = edit(site, { kind: 'bringIn', ...nothing, pages: namedPages, files: namedFiles })
  if ('refusal' in named) return { refusal: named.refusal.message }
  const pathOf = new Map(coming.map(({ path }) => [old.idOf.get(path)!, beside.base + path]))
  const { pages: newPages, files: newFiles } =
    into.names === 'kept'
      ? keepPlaces({ pages: namedPages, files: namedFiles }, site, beside.names, namesOf(named.site), (id) =>
          pathOf.get(id)!,
        )
      : { pages: namedPages, files: namedFiles }
  const draft = edit(site, { kind: 'bringIn', ...nothing, pages: newPages, files: newFiles })
  if ('refusal' in draft) return { refusal: draft.refusal.message }
  const names = namesOf(draft.site)
  const pageById = new Map(draft.site.pages.map((page) => [page.id, page]))
  const languages = languagesOf(draft.site)
  const goals: Goals = {
    old,
    names,
    homeFile: homeFileOf(draft.site),
    languageOf: (id) => languages.of(pageById.get(id)!),
    joins: true,
  }
  const placing: Placing = { pages, site: draft.site, into: { ...into, parentId }, goals, pageById, isAnew }
  const { templates, found, madeIn, holds } =
    into.frame === 'own'
      ? inOwnFrame(placing, titles, titles.siteName ?? (name.trim() || 'another site'), tools)
      : inThatFrame(placing, sources, put)
  const written = ({ id }: { readonly id: string }) => {
    const one = holds.get(id)!
    const slots = into.frame === 'site' ? { ...pageById.get(id)!.slots, ...one.slots } : one.slots
    return { content: one.content, slots, templateId: one.templateId }
  }
  // In a frame of theirs, so is what is added below them later.
  const wholes = new Set(
    found.flatMap(({ isWhole, pageIds }) => (isWhole ? pageIds.map((id) => holds.get(id)!.templateId) : [])),
  )
  const inTemplates =
    into.frame === 'own'
      ? templatesBelow(
          newPages,
          (id) => holds.get(id)!.templateId!,
          (under) => inheritedTemplate(site, { parentId: under }),
          (id) => !wholes.has(id),
        )
      : newPages.map((page) => ({ ...page, templateId: holds.get(page.id)!.templateId }))
  const styled = otherFiles.map((file) => {
    const id = old.idOf.get(file.path)!
    const { path, text, hash, sizeBytes } = file
    const syntax = fileSyntaxOf(path, sizeBytes)
    if (syntax === null || text === undefined) return { id, hash, sizeBytes }
    const mended = mendedFile(text, syntax, path, names.files.get(id)!, goals)
    if (mended === text) return { id, hash, sizeBytes }
    return { id, hash: put(mended), sizeBytes: sizeOf(mended) }
  })
  const inDraft = translationsIn(
    pages.filter(({ id }) => !isAnew.has(id)),
    goals.languageOf,
  )
  const setOf = new Map(withTranslations(draft.site, inDraft).map((one) => [one.id, one.translationSet]))
  const styleOf = new Map(styled.map((one) => [one.id, one]))
  const change: BringIn = {
    templates,
    pages: inTemplates.map((page) => {
      const was = beside.base + byId.get(page.id)!.path
      const isMoved = names.pages.get(page.id)!.path !== was
      const { templateId: _, ...text } = written(page)
      const translationSet = setOf.get(page.id) ?? null
      return { ...page, ...text, translationSet, addresses: isMoved ? [was] : [] }
    }),
    files: newFiles.map((file) => ({ ...file, ...styleOf.get(file.id) })),
    anew: pages
      .filter(({ id }) => isAnew.has(id))
      .map((page): BroughtAnew => {
        const { label, description } = pageById.get(page.id)!
        return {
          id: page.id,
          ...written(page),
          ...titledAs(page, label),
          description: page.description ? page.description.text || null : description,
        }
      }),
    filesAnew: otherFiles.filter(isFileAnew).map(({ path }) => styleOf.get(old.idOf.get(path)!)!),
  }
  const edited = edit(site, { kind: 'bringIn', ...change })
  if ('refusal' in edited) return { refusal: edited.refusal.message }
  const comes = treeOf(edited.site)
    .places.filter(({ page }) => byId.has(page.id))
    .map(({ page }) => ({ id: page.id, isNew: !isAnew.has(page.id) }))
  remarks.push(...remarksOfShortNames(pages, old.resolve), ...remarksOfIncludes(pageFiles))
  for (const { path } of pages.filter(({ id }) => leftOut.has(id)).slice(0, 1))
    remarks.push({
      path: beside.base + path,
      why: `It and ${leftOut.size - 1} more come at the top level, and are left out of menus, which would be long with them. “List in menus” puts them in.`,
    })
  return {
    site: edited.site,
    templates: found,
    old,
    pages: pages.map((page) => asItWas(page, tools.aside)),
    madeIn,
    remarks,
    change,
    base: beside.base,
    same,
    comes,
  }
}
