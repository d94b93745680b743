import { compareNewest } from '#core/naming'
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
  /** The first of them holds where nothing is said. */
  readonly values: readonly string[]
  /** Whether any whole number from 1 will do as well. */
  readonly isNumber?: true
  /** Whether it is tags of languages, with spaces between them. */
  readonly isLanguages?: true
  /** Whether it is any text. */
  readonly isText?: true
}

/** How many levels of a list are shown. */
export const levelsAttribute: PartAttribute = {
  name: 'levels',
  values: ['1', '2', '3', 'all'],
  isNumber: true,
}
/** Whether a page's own entry is marked, or left out. */
export const ownAttribute: PartAttribute = { name: 'own', values: ['mark', 'omit'] }

/** Whether dates of pages stand in front of their links; the first of both holds where nothing is said. */
export const datesAttribute = (...values: readonly ['show' | 'hide', 'show' | 'hide']): PartAttribute => ({
  name: 'dates',
  values,
})
/** Whether what pages say of themselves stands below their links. */
export const descriptionsAttribute: PartAttribute = { name: 'descriptions', values: ['hide', 'show'] }

/** Elements that can mark a page's own entry. */
export const marks = ['a', 'b', 'strong', 'em', 'i', 'u', 'span']

/** How any part looks, whatever it lists. */
export const lookAttributes: readonly PartAttribute[] = [
  { name: 'between', values: [], isText: true },
  { name: 'as', values: ['nav', 'p', 'div', 'list'] },
  { name: 'mark', values: marks },
  ...[
    'list-class',
    'item-class',
    'own-item-class',
    'above-item-class',
    'link-class',
    'own-class',
    'above-class',
  ].map((name): PartAttribute => ({ name, values: [], isText: true })),
]

/**
 * A generated part: a custom element of a template that becomes a plain list of links in a `nav`, or with `between` a line of
 * links that stands where the element does.
 */
export interface GeneratedPart {
  /** Its element. */
  readonly name: string
  /** Attributes that say what it shows, beside those that say how (`lookAttributes`); all others are passed on to its `nav`. */
  readonly attributes: readonly PartAttribute[]
  readonly list: 'ul' | 'ol'
  /**
   * What it lists on one page.
   * @param keeps whether it keeps to the page's language: where its template lists languages, which lead to the others
   */
  readonly entries: (
    context: SiteContext,
    attributes: Attributes,
    page: Page,
    keeps: boolean,
  ) => readonly Entry[]
  /**
   * What its entries depend on beside the pages they list: equal for two pages, equal entries. It drives
   * what is made again. Without it every page has entries of its own.
   */
  readonly dependsOn?: (context: SiteContext, attributes: Attributes, page: Page, keeps: boolean) => string
  /** Levels of it, where pages that stand alike in it and in one folder show one and the same text. */
  readonly sharedLevels?: (attributes: Attributes) => number | null
  /** Whether pages of a folder under one parent, the home page apart, show the same text but for their own labels. */
  readonly isSharedBySiblings?: true
  /** Whether a page's own entry is left out where nothing stands below it. */
  readonly omitsOwn?: (attributes: Attributes) => boolean
  /** What a page is called in it; without it by its label. In the page's own language. */
  readonly label?: (context: SiteContext, attributes: Attributes, page: Page) => string
  /** Whether the dates of pages stand in front of their links, which then do not say them again. */
  readonly dates?: (attributes: Attributes) => boolean
  /** Whether what pages say of themselves stands below their links. */
  readonly describes?: (attributes: Attributes) => boolean
  /** Whether it leads to other languages: the other parts of its template then keep to the page's own. */
  readonly listsLanguages?: true
  /** Whether it keeps to the page's language whatever stands beside it. */
  readonly keepsLanguage?: (attributes: Attributes) => boolean
  /** Whether entries above the page are marked. */
  readonly marksAbove?: boolean
  /** The `rel` of a link from one page to another; '' for none. */
  readonly rel?: (
    context: SiteContext,
    attributes: Attributes,
    from: Page,
    to: Page,
    keeps: boolean,
  ) => string
}

/** Whether a page is listed in menus at all. */
export const listed = (page: Page): boolean => page.inMenus && !page.trial

/** Pages without anything below them. */
export const flat = (pages: readonly Page[]): Entry[] => pages.map((page) => ({ page, below: [] }))

/** The home page for who reads a page: where it keeps to its language, and the home page is in that as well, that one. */
export function homeFor(
  { tree, site, languages, translations }: SiteContext,
  page: Page,
  keeps: boolean,
): Page {
  const home = tree.byId.get(site.homeId)!
  return (keeps && translations.inLanguage(home, languages.of(page))) || home
}

/** Whether a page is the home page, or that in another language. */
export const isSomeHome = ({ site, translations }: SiteContext, page: Page): boolean =>
  page.id === site.homeId || translations.of(page).some(({ id }) => id === site.homeId)

/** Pages of one parent (null: of the top) that are listed, without the home page, and where that is kept to, those in other languages. */
export const listedUnder = (context: SiteContext, parentId: string | null, keeps: boolean): Page[] =>
  context.tree
    .childrenOf(parentId)
    .filter(
      (page) => listed(page) && page.id !== context.site.homeId && !(keeps && isSomeHome(context, page)),
    )

/** What menus list under a page (null: at the top), so many levels deep. */
export function entriesUnder(
  context: SiteContext,
  parentId: string | null,
  levels: number,
  keeps: boolean,
  order: (pages: Page[]) => Page[] = (pages) => pages,
): Entry[] {
  if (levels < 1) return []
  return order(listedUnder(context, parentId, keeps)).map((page) => ({
    page,
    below: entriesUnder(context, page.id, levels - 1, keeps, order),
  }))
}

/** Pages with the newest first, and those that carry no date after them as they were. */
export function newestFirst({ dates }: SiteContext, pages: readonly Page[]): Page[] {
  const dateOf = (page: Page) => dates.of(page)?.date ?? ''
  return [...pages].sort((a, b) => compareNewest(dateOf(a), dateOf(b)))
}

/** What an attribute asks for: a whole number from 1, or `all`, which is `most`; `usual` where it says neither. */
function numberOf(value: string | undefined, usual: number, most: number): number {
  if (value === 'all') return most
  const number = Number.parseInt(value ?? '', 10)
  return number >= 1 ? number : usual
}

/** Number of levels an attribute asks for: a whole number from 1, or `all`. */
export const levelsOf = ({ levels }: Attributes): number => numberOf(levels, 1, 100)

/** Number of pages an attribute asks for, five where it does not. */
export const countOf = ({ count }: Attributes): number => numberOf(count, 5, Infinity)

/** The pages above a page, below its home page; the top level first. */
export function belowHome(context: SiteContext, page: Page, keeps: boolean): readonly Page[] {
  const above = ancestorsOf(context.tree, page)
  return above.slice(above.indexOf(homeFor(context, page, keeps)) + 1)
}

/** The page's own page at the top level of what is below its home page, or null on that. */
export function sectionOf(context: SiteContext, page: Page, keeps: boolean): Page | null {
  if (page.id === homeFor(context, page, keeps).id) return null
  return belowHome(context, page, keeps)[0] ?? page
}
