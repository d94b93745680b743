import { ancestorsOf } from '#core/plan'
import type { Page } from '#core/site'
import type { SiteContext } from '../context'

/** An entry of a generated list, with the entries below it. */
export interface Entry {
  readonly page: Page
  readonly below: readonly Entry[]
}

export type Attributes = Readonly<Record<string, string>>

/** An attribute that says what a part shows, and the values it can have. */
export interface PartAttribute {
  readonly name: string
  readonly values: readonly string[]
  /** Whether any whole number from 1 will do as well. */
  readonly isNumber?: true
}

/** How many levels of a list are shown. */
export const levelsAttribute: PartAttribute = {
  name: 'levels',
  values: ['1', '2', '3', 'all'],
  isNumber: true,
}
/** Whether a page's own entry is marked, or left out. */
export const ownAttribute: PartAttribute = { name: 'own', values: ['mark', 'omit'] }

/** A generated part: a custom element of a template that becomes a plain list of links in a `nav`. */
export interface GeneratedPart {
  /** Its element. */
  readonly name: string
  /** Attributes that say what it shows; all others are passed on to its `nav`. */
  readonly attributes: readonly PartAttribute[]
  readonly list: 'ul' | 'ol'
  /** What it lists on one page. */
  readonly entries: (context: SiteContext, attributes: Attributes, page: Page) => readonly Entry[]
  /**
   * What its entries depend on beside the pages they list: equal for two pages, equal entries. It drives
   * what is made again. Without it every page has entries of its own.
   */
  readonly dependsOn?: (context: SiteContext, attributes: Attributes, page: Page) => string
  /** Levels of it, where pages that stand alike in it and in one folder show one and the same text. */
  readonly sharedLevels?: (attributes: Attributes) => number | null
  /** Whether pages of a folder under one parent, the home page apart, show the same text but for their own labels. */
  readonly isSharedBySiblings?: true
  /** Whether a page's own entry is left out where nothing stands below it. */
  readonly omitsOwn?: (attributes: Attributes) => boolean
  /** What a page is called in it; without it by its label. In the page's own language. */
  readonly label?: (context: SiteContext, attributes: Attributes, page: Page) => string
  /** Whether what pages say of themselves stands below their links. */
  readonly describes?: (attributes: Attributes) => boolean
  /** Whether entries above the page are marked. */
  readonly marksAbove?: boolean
  /** The `rel` of a link from one page to another; '' for none. */
  readonly rel?: (context: SiteContext, from: Page, to: Page) => string
}

/** Whether a page is listed in menus at all. */
export const listed = (page: Page): boolean => page.inMenus && !page.trial

/** Pages without anything below them. */
export const flat = (pages: readonly Page[]): Entry[] => pages.map((page) => ({ page, below: [] }))

/**
 * The home page for who reads a page: the one in its language, where the home page is in several (`Site.homeId` in all others).
 */
export function homeFor({ tree, site, languages, translations }: SiteContext, page: Page): Page {
  const home = tree.byId.get(site.homeId)!
  return translations.inLanguage(home, languages.of(page)) ?? home
}

/** Whether a page is the home page, or that in another language. */
export const isSomeHome = ({ site, translations }: SiteContext, page: Page): boolean =>
  page.id === site.homeId || translations.of(page).some(({ id }) => id === site.homeId)

/**
 * What the menu of a whole site lists for who reads a page, so many levels deep: where its language has a home page of its
 * own, what stands under that.
 */
export function entriesFor(context: SiteContext, page: Page, levels: number): Entry[] {
  const home = homeFor(context, page)
  return entriesUnder(context, home.id === context.site.homeId ? null : home.id, levels)
}

/** What menus list under a page (null: at the top, without home pages in other languages), so many levels deep. */
export function entriesUnder(context: SiteContext, parentId: string | null, levels: number): Entry[] {
  if (levels < 1) return []
  return context.tree
    .childrenOf(parentId)
    .filter((page) => listed(page) && !(parentId === null && isSomeHome(context, page)))
    .map((page) => ({ page, below: entriesUnder(context, page.id, levels - 1) }))
}

/** Number of levels an attribute asks for: a whole number from 1, or `all`. */
export function levelsOf({ levels: value }: Attributes): number {
  if (value === 'all') return 100
  const levels = Number.parseInt(value ?? '', 10)
  return levels >= 1 ? levels : 1
}

/** The pages above a page, below the home page of its language; the top level first. */
export function belowHome(context: SiteContext, page: Page): readonly Page[] {
  const above = ancestorsOf(context.tree, page)
  return above.slice(above.indexOf(homeFor(context, page)) + 1)
}

/** The page's own page at the top level of its language, or null on a home page. */
export function sectionOf(context: SiteContext, page: Page): Page | null {
  if (page.id === homeFor(context, page).id) return null
  return belowHome(context, page)[0] ?? page
}
