import { generateNKeysBetween } from 'fractional-indexing'
import { applyEdits, findCssReferences, type Range, writeReference } from '#core/markup'
import { namesOf } from '#core/naming'
import {
  defaultChecking,
  defaultOutput,
  defaultScheme,
  type Hash,
  mainSlot,
  type Page,
  type Scheme,
  type Site,
  type Template,
} from '#core/site'
import { defaultTemplate, pageTitle } from '#core/template'
import { type BroughtFile, commonFolder, type Remark } from './brought'
import { type Group, groupPages } from './frame'
import { findParts } from './generated-of'
import { charsetEdits, type Goals, liftTemplate, mendedHref, mendsIn, sliceWith } from './lift-template'
import { oldNamesOf, type OldNames } from './old-names'
import { readPage, type ReadPage } from './page-tree'
import { planOf } from './plan-of'
import { withNewNames, withOldNames } from './scheme-of'
import { readTitles } from './titles'

/** How a site is brought in. */
export interface BringingChoices {
  /** The scheme that names everything afresh; null keeps names as they are. */
  readonly scheme: Scheme | null
  /** Whether what pages share becomes templates; each page is kept whole otherwise. */
  readonly lifts: boolean
  /** Whether menus that follow the plan become generated ones; they stay as they are otherwise. */
  readonly generates: boolean
}

export interface BringingTools {
  readonly newId: () => string
  /** Keeps a text, and names it. */
  readonly put: (text: string) => Hash
  readonly sizeOf: (text: string) => number
}

/** A group of pages and the template that was found in them. */
export interface FoundTemplate {
  readonly templateId: string
  readonly name: string
  readonly pageIds: readonly string[]
  /** Slots of it beside the one that pages are written in. */
  readonly slots: readonly string[]
  /** Whether its pages are kept whole. */
  readonly isWhole: boolean
}

/** A site that exists already, as it would be here. */
export interface Understood {
  readonly site: Site
  readonly templates: readonly FoundTemplate[]
  readonly old: OldNames
  readonly pages: readonly ReadPage[]
  /** Where a page had what a generated part makes now. */
  readonly madeIn: ReadonlyMap<string, readonly Range[]>
  readonly remarks: readonly Remark[]
}

const wholeTemplate = '<slot name="content"></slot>\n'

/** Pages in the order and under the parents of a plan. */
function pagesOf(plan: ReturnType<typeof planOf>, emptyContent: Hash): Page[] {
  const byParent = new Map<string | null, string[]>()
  for (const { id, parentId } of plan.plan) byParent.set(parentId, [...(byParent.get(parentId) ?? []), id])
  const orderOf = new Map<string, string>()
  for (const ids of byParent.values()) {
    const keys = generateNKeysBetween(null, null, ids.length)
    for (const [index, id] of ids.entries()) orderOf.set(id, keys[index]!)
  }
  return plan.plan.map(({ id, label, parentId, inMenu }, index) => ({
    id,
    parentId,
    order: orderOf.get(id)!,
    seq: index + 1,
    label,
    ownName: null,
    keptName: null,
    title: null,
    description: null,
    trial: false,
    inMenus: inMenu,
    dated: false,
    date: null,
    addresses: [],
    templateId: null,
    belowTemplateId: null,
    content: emptyContent,
    slots: {},
  }))
}

/** The language that most pages say. */
function languageOf(pages: readonly ReadPage[]): string {
  const counts = new Map<string, number>()
  for (const { text } of pages) {
    const lang = /<html\b[^>]*\blang\s*=\s*["']?([A-Za-z]{2,8}(?:-[A-Za-z0-9]{1,8})*)/i.exec(
      text.slice(0, 4_000),
    )?.[1]
    if (lang) counts.set(lang, (counts.get(lang) ?? 0) + 1)
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'en'
}

/**
 * Understands a site from its files: the plan its pages follow, the templates they share, what they are called,
 * and where every reference leads. Nothing of it is thrown away: what fits no frame is kept whole.
 */
export function understand(
  brought: readonly BroughtFile[],
  name: string,
  { scheme, lifts, generates }: BringingChoices,
  { newId, put, sizeOf }: BringingTools,
): Understood | { readonly refusal: string } {
  const common = commonFolder(brought.map(({ path }) => path))
  const files = brought.map((file) => ({ ...file, path: file.path.slice(common.length) }))
  const pageFiles = files.filter((file) => file.kind === 'page')
  if (pageFiles.length === 0)
    return { refusal: 'There is no page among these files: none is called .html or .htm.' }
  const remarks: Remark[] = []
  const old = oldNamesOf(files, newId)
  const pages = pageFiles.map(({ path, text = '' }) => {
    const goalOf = (href: string): string => {
      const target = old.resolve(href.trim(), path)
      return 'id' in target ? `${target.id}${target.suffix}` : href
    }
    return readPage({ id: old.idOf.get(path)!, path, text: text.replace(/\r\n?/g, '\n') }, goalOf)
  })
  const titles = readTitles(pages)
  const plan = planOf(pages, old, titles.titleOf, titles.siteName)
  const homeTitle = titles.titleOf(plan.home)
  const siteName = (titles.siteName ?? (name.trim() || homeTitle) ?? 'A site').slice(0, 200)
  const emptyContent = put('')
  const titleById = new Map(pages.map((page) => [page.id, titles.titleOf(page)]))
  const byId = new Map(pages.map((page) => [page.id, page]))
  const otherFiles = files.filter((file) => file.kind !== 'page')
  const usesCrlf = pageFiles.filter(({ text = '' }) => text.includes('\r\n')).length * 2 > pageFiles.length
  const draft: Site = {
    id: newId(),
    name: siteName,
    language: languageOf(pages),
    titlePattern: titles.pattern,
    homeTitlePattern: '',
    homeId: plan.home.id,
    templateId: '',
    output: { ...defaultOutput, lineEnd: usesCrlf ? 'crlf' : 'lf' },
    checking: defaultChecking,
    scheme: scheme ?? defaultScheme,
    nextSeq: files.length + 1,
    pages: pagesOf(plan, emptyContent).map((page) => {
      const title = titleById.get(page.id) ?? null
      return {
        ...page,
        title: title === page.label ? null : title,
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
  const named = scheme ? withNewNames(draft, scheme, old) : withOldNames(draft, files, old)
  const names = namesOf(named)
  const goals: Goals = { old, names }

  const nameById = new Map(named.pages.map((page) => [page.id, pageTitle(page)]))
  const nameOf = (id: string) => nameById.get(id)!
  const groups = lifts
    ? groupPages(pages, (some) => (generates ? findParts(some, named, old) : []), nameOf)
    : pages.map((page): Group => ({ pages: [page], gaps: [], parts: [] }))
  const templates: Template[] = []
  const found: FoundTemplate[] = []
  const held = new Map<string, { templateId: string; slots: Record<string, string> }>()
  const alone: ReadPage[] = []
  const madeIn = new Map<string, readonly Range[]>()
  for (const group of groups) {
    if (group.pages.length < 2) {
      alone.push(...group.pages)
      continue
    }
    const { source, slotsOf } = liftTemplate(group, nameOf, goals)
    const templateId = newId()
    const templateName = templates.length === 0 ? 'Shared template' : `Template ${templates.length + 1}`
    templates.push({ id: templateId, name: templateName, source: put(source), basedOn: null })
    const slots = new Set([...slotsOf.values()].flatMap(Object.keys))
    slots.delete(mainSlot)
    found.push({
      templateId,
      name: templateName,
      pageIds: group.pages.map(({ id }) => id),
      slots: [...slots],
      isWhole: false,
    })
    for (const [id, texts] of slotsOf) held.set(id, { templateId, slots: texts })
    const made = group.parts.filter(({ part }) => part.html !== '')
    for (const [at, { id }] of group.pages.entries())
      madeIn.set(
        id,
        made.flatMap(({ ranges }) => ranges[at] ?? []),
      )
  }
  if (alone.length > 0) {
    const templateId = newId()
    templates.push({ id: templateId, name: 'Whole pages', source: put(wholeTemplate), basedOn: null })
    found.push({
      templateId,
      name: 'Whole pages',
      pageIds: alone.map(({ id }) => id),
      slots: [],
      isWhole: true,
    })
    for (const page of alone) {
      const whole = { start: 0, end: page.text.length }
      const to = names.pages.get(page.id)!.path
      const edits = [...mendsIn(page, whole, to, goals), ...charsetEdits(page)]
      held.set(page.id, { templateId, slots: { [mainSlot]: sliceWith(page.text, whole, edits) } })
    }
  }
  // For pages that are added later there is a template that has a frame.
  if (found.every(({ isWhole }) => isWhole))
    templates.unshift({ id: newId(), name: 'Shared template', source: put(defaultTemplate), basedOn: null })

  const styled = named.files.map((file) => {
    const was = otherFiles.find(({ path }) => old.idOf.get(path) === file.id)!
    const to = names.files.get(file.id)!
    if (to !== was.path) remarks.push({ path: was.path, why: `It stands at ${to} now.` })
    if (file.kind !== 'style' || was.text === undefined) return file
    const css = was.text.replace(/\r\n?/g, '\n')
    const edits = findCssReferences(css).flatMap((reference) => {
      const href = mendedHref(reference.href, was.path, to, goals)
      return href === null
        ? []
        : [{ start: reference.start, end: reference.end, text: writeReference(reference, href) }]
    })
    const text = applyEdits(css, edits)
    return { ...file, hash: put(text), sizeBytes: sizeOf(text) }
  })
  const site: Site = {
    ...named,
    templateId: templates[0]!.id,
    templates,
    files: styled,
    pages: named.pages.map((page) => {
      const { templateId, slots } = held.get(page.id)!
      const { [mainSlot]: content = '', ...others } = slots
      return {
        ...page,
        templateId: templateId === templates[0]!.id ? null : templateId,
        content: content === '' ? emptyContent : put(content),
        slots: Object.fromEntries(
          Object.entries(others)
            .filter(([, text]) => text !== '')
            .map(([slot, text]) => [slot, put(text)]),
        ),
      }
    }),
  }
  for (const { path } of pageFiles)
    if (/\.shtml$/i.test(path))
      remarks.push({
        path,
        why: 'It has parts that its host puts in; they stay as the comments that they are.',
      })
  return { site, templates: found, old, pages, madeIn, remarks }
}
