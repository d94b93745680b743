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
  /** Menus made so far, by all that can make two of them differ. */
  readonly menus: Map<string, string>
}

export const contextOf = (site: Site): SiteContext => ({
  site,
  tree: treeOf(site),
  names: namesOf(site),
  menus: new Map(),
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
      const siblings = tree.childrenOf(page.parentId).filter((one) => listed(one) && one.id !== site.homeId)
      const at = siblings.findIndex((one) => one.id === page.id)
      return at < 0 ? [] : flat([siblings[at - 1], siblings[at + 1]].filter((one) => one !== undefined))
    }
  }
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
  let html = context.menus.get(key)
  if (html === undefined) context.menus.set(key, (html = render(context, part, page, indent)))
  return html
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

function neighbourRel({ tree }: SiteContext, page: Page, one: Page): string {
  const siblings = tree.childrenOf(page.parentId)
  return siblings.indexOf(one) < siblings.indexOf(page) ? ' rel="prev"' : ' rel="next"'
}

/** Everything of other pages that a part shows on this one; equal texts, equal parts. */
export function generatedSignature(context: SiteContext, part: GeneratedPart, page: Page): string {
  const write = (entries: readonly Entry[]): string =>
    entries
      .map(
        (one) => `${one.page.label}\u0001${context.names.pages.get(one.page.id)!.path}(${write(one.below)})`,
      )
      .join('\u0002')
  return write(entriesFor(context, part, page))
}

export { pageTitle }
