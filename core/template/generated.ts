import { relativeReference } from '#core/links'
import { escapeAttribute, escapeText } from '#core/markup'
import { type Names, namesOf } from '#core/naming'
import { ancestorsOf, type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import type { CompiledTemplate, GeneratedName } from './compile'

type GeneratedPart = CompiledTemplate['generated'][number]

/** What generated parts are made from. */
export interface SiteContext {
  readonly site: Site
  readonly tree: Tree
  readonly names: Names
  /** Menus made last, by all that can make two of them differ. */
  readonly menus: BoundedTexts
  /** Pages that neighbours are found among, by parent, with their places. */
  readonly siblings: Map<
    string | null,
    { readonly list: readonly Page[]; readonly at: ReadonlyMap<string, number> }
  >
  /** What was worked out once for all pages of a section. */
  readonly signatures: Map<string, string>
  readonly weights: Map<string, number>
}

/** Texts kept for a while, by what they were made from; when they grow too large together all are let go. */
export class BoundedTexts {
  readonly #texts = new Map<string, string>()
  #size = 0

  /** @param most UTF-16 code units of all texts together */
  constructor(private readonly most: number) {}

  get size(): number {
    return this.#size
  }

  get(key: string, make: () => string): string {
    const known = this.#texts.get(key)
    if (known !== undefined) return known
    const text = make()
    if (this.#size + text.length > this.most) {
      this.#texts.clear()
      this.#size = 0
    }
    this.#texts.set(key, text)
    this.#size += text.length
    return text
  }
}

/** A folder a page would keep a menu a page: pages come by folder, so the latest are the ones asked for. */
const mostMenuText = 4_000_000

export const contextOf = (site: Site): SiteContext => ({
  site,
  tree: treeOf(site),
  names: namesOf(site),
  menus: new BoundedTexts(mostMenuText),
  siblings: new Map(),
  signatures: new Map(),
  weights: new Map(),
})

/** An entry of a menu, with the entries below it. */
interface Entry {
  readonly page: Page
  readonly below: readonly Entry[]
}

/** Attributes that say what the part shows; all others are passed on to its `nav`. */
const instructions: Readonly<Record<GeneratedName, readonly string[]>> = {
  'site-menu': ['levels', 'of', 'own'],
  'site-trail': ['own'],
  'page-children': ['levels'],
  'page-neighbours': [],
}

const listed = (page: Page) => page.inMenus && !page.trial

function entriesUnder(context: SiteContext, parentId: string | null, levels: number): Entry[] {
  if (levels < 1) return []
  return context.tree
    .childrenOf(parentId)
    .filter((page) => listed(page) && page.id !== context.site.homeId)
    .map((page) => ({ page, below: entriesUnder(context, page.id, levels - 1) }))
}

/** Number of levels an attribute asks for: a whole number from 1, or `all`. */
function levelsOf(value: string | undefined): number {
  if (value === 'all') return 100
  const levels = Number.parseInt(value ?? '', 10)
  return levels >= 1 ? levels : 1
}

/** The page's own top-level page, or null on the home page. */
function sectionOf({ tree, site }: SiteContext, page: Page): Page | null {
  if (page.id === site.homeId) return null
  return ancestorsOf(tree, page)[0] ?? page
}

/** The pages a generated part lists for one page, each with its mark. */
function entriesFor(context: SiteContext, part: GeneratedPart, page: Page): readonly Entry[] {
  const { tree, site } = context
  const levels = levelsOf(part.attributes.levels)
  const flat = (pages: readonly Page[]) => pages.map((one) => ({ page: one, below: [] }))
  switch (part.name) {
    case 'site-menu': {
      if (part.attributes.of !== 'section') return entriesUnder(context, null, levels)
      const section = sectionOf(context, page)
      return section ? entriesUnder(context, section.id, levels) : []
    }
    case 'page-children':
      return page.id === site.homeId ? [] : entriesUnder(context, page.id, levels)
    case 'site-trail': {
      if (page.id === site.homeId) return []
      const home = tree.byId.get(site.homeId)
      const above = ancestorsOf(tree, page).filter((one) => one.id !== site.homeId)
      return flat([...(home ? [home] : []), ...above, ...(part.attributes.own === 'omit' ? [] : [page])])
    }
    case 'page-neighbours': {
      const { list, at } = siblingsOf(context, page.parentId)
      const place = at.get(page.id)
      if (place === undefined) return []
      return flat([list[place - 1], list[place + 1]].filter((one) => one !== undefined))
    }
  }
}

/** The pages of one parent that neighbours are found among, and where each stands. */
function siblingsOf(context: SiteContext, parentId: string | null) {
  let known = context.siblings.get(parentId)
  if (!known) {
    const list = context.tree
      .childrenOf(parentId)
      .filter((one) => listed(one) && one.id !== context.site.homeId)
    known = { list, at: new Map(list.map((page, index) => [page.id, index])) }
    context.siblings.set(parentId, known)
  }
  return known
}

const pageTitle = (page: Page) => page.title ?? page.label

function link(context: SiteContext, from: string, page: Page, own: Page, rel = '', above = false): string {
  const text = escapeText(page.label)
  // An `a` without `href` is the standard's own way to show where one stands (HTML §4.5.1).
  if (page.id === own.id) return `<a aria-current="page">${text}</a>`
  const href = escapeAttribute(relativeReference(from, context.names.pages.get(page.id)!.path))
  return `<a${rel} href="${href}"${above ? ' aria-current="true"' : ''}>${text}</a>`
}

/**
 * A generated part for one page as HTML lines, or '' when it has nothing to show.
 * @param indent white space before each line but the first
 */
export function renderGenerated(
  context: SiteContext,
  part: GeneratedPart,
  page: Page,
  indent: string,
): string {
  if (part.name !== 'site-menu' || part.attributes.of === 'section')
    return render(context, part, page, indent)
  // The site's menu is the same on all pages of a folder that stand under the same entries of it.
  const levels = levelsOf(part.attributes.levels)
  const marks = [...ancestorsOf(context.tree, page), page].slice(0, levels).map((one) => one.id)
  const { folder } = context.names.pages.get(page.id)!
  const isEntry = marks.length <= levels && marks[marks.length - 1] === page.id
  const key = JSON.stringify([part.attributes, indent, folder, marks, isEntry])
  return context.menus.get(key, () => render(context, part, page, indent))
}

function render(context: SiteContext, part: GeneratedPart, page: Page, indent: string): string {
  const entries = entriesFor(context, part, page)
  if (entries.length === 0) return ''
  const from = context.names.pages.get(page.id)!.path
  const above = new Set(ancestorsOf(context.tree, page).map((one) => one.id))
  const omitOwn = part.name === 'site-menu' && part.attributes.own === 'omit'
  const lines: string[] = []
  const list = (tag: 'ul' | 'ol', items: readonly Entry[], depth: string) => {
    lines.push(`${depth}<${tag}>`)
    for (const { page: one, below } of items) {
      if (omitOwn && one.id === page.id && below.length === 0) continue
      const rel = part.name === 'page-neighbours' ? neighbourRel(context, page, one) : ''
      const mark = part.name === 'site-menu' && above.has(one.id)
      const anchor = link(context, from, one, page, rel, mark)
      if (below.length === 0) lines.push(`${depth}  <li>${anchor}</li>`)
      else {
        lines.push(`${depth}  <li>`, `${depth}    ${anchor}`)
        list(tag, below, `${depth}    `)
        lines.push(`${depth}  </li>`)
      }
    }
    lines.push(`${depth}</${tag}>`)
  }
  const passed = Object.entries(part.attributes)
    .filter(([name]) => !instructions[part.name].includes(name))
    .map(([name, value]) => ` ${name}="${escapeAttribute(value)}"`)
  const named = 'class' in part.attributes ? '' : ` class="${part.name}"`
  lines.push(`<nav${named}${passed.join('')}>`)
  list(part.name === 'site-trail' ? 'ol' : 'ul', entries, `${indent}  `)
  lines.push(`${indent}</nav>`)
  return lines.length > 4 ? lines.join('\n') : ''
}

function neighbourRel(context: SiteContext, page: Page, one: Page): string {
  const { at } = siblingsOf(context, page.parentId)
  return at.get(one.id)! < at.get(page.id)! ? ' rel="prev"' : ' rel="next"'
}

/**
 * Everything of other pages that a part shows on this one; equal texts, equal parts. What is the same
 * for a whole section is written once for it.
 * @param digest makes a short text of a long one
 */
export function generatedSignature(
  context: SiteContext,
  part: GeneratedPart,
  page: Page,
  digest: (text: string) => string,
): string {
  const write = (entries: readonly Entry[]): string =>
    entries
      .map(
        (one) => `${one.page.label}\u0001${context.names.pages.get(one.page.id)!.path}(${write(one.below)})`,
      )
      .join('\u0002')
  const made = () => digest(write(entriesFor(context, part, page)))
  if (part.name !== 'site-menu') return made()
  const shared = part.attributes.of === 'section' ? (sectionOf(context, page)?.id ?? '') : 'whole'
  const key = `${part.attributes.levels ?? ''} ${shared}`
  let signature = context.signatures.get(key)
  if (signature === undefined) context.signatures.set(key, (signature = made()))
  return signature
}

/** Bytes a link of a menu takes beside its label and its address, about. */
const linkOverhead = 48

/**
 * About how many bytes the generated parts of one page take: entries counted, nothing written. For
 * telling a template that multiplies without bound before it does.
 */
export function generatedWeight(context: SiteContext, parts: readonly GeneratedPart[], page: Page): number {
  const weigh = (entries: readonly Entry[]): number => {
    let bytes = 0
    for (const { page: one, below } of entries)
      bytes += one.label.length + context.names.pages.get(one.id)!.path.length + linkOverhead + weigh(below)
    return bytes
  }
  let bytes = 0
  for (const part of parts) {
    const isMenu = part.name === 'site-menu'
    const shared = part.attributes.of === 'section' ? (sectionOf(context, page)?.id ?? '') : 'whole'
    const key = `${part.attributes.levels ?? ''} ${shared}`
    const known = isMenu ? context.weights.get(key) : undefined
    const weight = known ?? weigh(entriesFor(context, part, page))
    if (isMenu) context.weights.set(key, weight)
    bytes += weight
  }
  return bytes
}

export { pageTitle }
