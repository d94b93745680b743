import { readLabelDate } from '#core/language'
import { languagesOf, type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'

/** The date a page carries, and what its label says besides. */
export interface DatedLabel {
  /** `2025`, `2025-06` or `2025-06-14`; null where neither its author nor its label says one. */
  readonly date: string | null
  /** The label without a date that stands in it; '' where that is all it says. */
  readonly label: string
}

/** What a page of a dated section carries; null for one of any other. The date that its author set goes before that in its label. */
export function datedLabel(tree: Tree, page: Page, language: string): DatedLabel | null {
  const section = page.parentId === null ? undefined : tree.byId.get(page.parentId)
  if (!section?.dated) return null
  const read = readLabelDate(page.label, language)
  return { date: page.date ?? read?.date ?? null, label: read?.rest ?? page.label }
}

/** A page's date, which is known, and its label without it. */
export interface PageDate extends DatedLabel {
  readonly date: string
}

/** When the pages of a site are of. */
export interface PageDates {
  /** Null for a page that carries no date. */
  of(page: Page): PageDate | null
  /** All that carry one, the newest first, those of one date as the plan has them. No trial pages. */
  readonly newest: readonly Page[]
}

type Dateable = Pick<Site, 'pages' | 'homeId' | 'language'>

const known = new WeakMap<readonly Page[], { readonly site: Dateable; readonly dates: PageDates }>()

/** The dates of a site's pages; computed once for each list of them. */
export function datesOf(site: Dateable): PageDates {
  const memo = known.get(site.pages)
  if (memo && memo.site.language === site.language && memo.site.homeId === site.homeId) return memo.dates
  const dates = workOut(site)
  known.set(site.pages, { site, dates })
  return dates
}

function workOut(site: Dateable): PageDates {
  const found = new Map<Page, PageDate>()
  if (site.pages.some(({ dated }) => dated)) {
    const tree = treeOf(site)
    const languages = languagesOf(site)
    for (const { page, trial } of tree.places) {
      const said = trial ? null : datedLabel(tree, page, languages.of(page))
      if (said && said.date !== null) found.set(page, { date: said.date, label: said.label })
    }
  }
  const dateOf = (page: Page) => found.get(page)!.date
  return {
    of: (page) => found.get(page) ?? null,
    newest: [...found.keys()].sort((a, b) => compareNewest(dateOf(a), dateOf(b))),
  }
}

/** Puts the newer of two dates first, and one before none; of a year and a day in it the day. */
export const compareNewest = (a: string, b: string): number => (a === b ? 0 : a > b ? -1 : 1)
