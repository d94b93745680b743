import { count, type Site } from '#core/site'
import type { Edited } from './edited'
import type { MovedPlaces } from './moved-places'

/** What is asked before a change is made that reaches further than its row: the words around its ripple. */
export interface Question {
  /** What kind of thing is asked, for a screen reader. */
  readonly name: string
  /** The beginning of a sentence that the ripple goes on with: `“Terns” goes under “Birds”`. */
  readonly what: string
  readonly go: string
  readonly leave: string
}

/**
 * All there is to one kind of change.
 * @typeParam C what it is made of
 * @typeParam R what a window asks for: texts where the change has the hashes under which they are kept
 */
export interface ChangeKind<C, R = C> {
  readonly apply: (site: Site, change: C) => Edited
  /** What undo would take back, for the history: `moving “Terns”`. */
  readonly title: (change: C, before: Site) => string
  /** Asked with its ripple; without it the change never touches anything but its row. */
  readonly question?: (request: R, before: Site) => Question
  /**
   * What a window shows of it before the server has answered; null where it has to wait. Without it, what
   * is asked for is the change.
   */
  readonly shown?: (request: R) => C | null
  /** True where names are settled afresh; otherwise those of pages it is not about are held still. */
  readonly namesAfresh?: true
  /** True where it may put pages deeper than a plan may go. */
  readonly deepens?: true
  /** True where it is typed letter by letter: it is made as it is typed, and what it touches shown after. */
  readonly isTyped?: true
  /** True where it alters what all pages share, and so is for those who manage the site. */
  readonly manages?: true | ((change: C, before: Site) => boolean)
  /** True where menus show it. */
  readonly inMenus?: true | ((request: R) => boolean)
  /** Places that stand in another page after it: references to them follow. */
  readonly places?: (change: C) => readonly MovedPlaces[]
  /** Copies it makes, by the ids of their originals. */
  readonly copies?: (change: C) => Readonly<Record<string, string>>
  /** Where references of its copies lead in place of other pages, by their ids. */
  readonly leads?: (change: C, before: Site) => Readonly<Record<string, string>>
  /** Pages, files and templates whose texts it brings were written for the site as it is after it. */
  readonly written?: (change: C) => readonly string[]
}

/** `“Terns”`, as a page is spoken of. */
export const quoted = (site: Pick<Site, 'pages'>, id: string): string =>
  `“${site.pages.find((page) => page.id === id)?.label ?? 'A page'}”`

/** `“Two columns”`, as a template is spoken of. */
export const templateCalled = (site: Pick<Site, 'templates'>, id: string): string =>
  `“${site.templates.find((one) => one.id === id)?.name ?? 'A template'}”`

/** `“Terns”` or `3 pages`. */
export const several = (site: Pick<Site, 'pages'>, ids: readonly string[]): string =>
  ids.length === 1 ? quoted(site, ids[0]!) : count(ids.length, 'page')
