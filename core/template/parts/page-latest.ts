import type { Page } from '#core/site'
import type { SiteContext } from '../context'
import {
  type Attributes,
  countOf,
  datesAttribute,
  descriptionsAttribute,
  flat,
  type GeneratedPart,
  listed,
  ownAttribute,
  sectionOf,
} from './part'

/**
 * The newest of all pages that carry a date, wherever in the site they stand, or with `of="section"` in the section that the
 * page is in; five of them, or as many as `count` says. Each with its date in front, with `dates="hide"` without, and with
 * `descriptions="show"` with what it says of itself.
 */
export const pageLatest: GeneratedPart = {
  name: 'page-latest',
  attributes: [
    { name: 'count', values: ['5', '3', '10', 'all'], isNumber: true },
    { name: 'of', values: ['site', 'section'] },
    datesAttribute('show', 'hide'),
    descriptionsAttribute,
    ownAttribute,
  ],
  list: 'ul',
  dates: ({ dates }) => dates !== 'hide',
  describes: ({ descriptions }) => descriptions === 'show',
  omitsOwn: ({ own }) => own === 'omit',
  entries: (context, attributes, page, keeps) => {
    const all = latestOf(context, attributes, page, keeps)
    return flat(all.slice(0, countOf(attributes)))
  },
  dependsOn: (context, attributes, page, keeps) =>
    `${countOf(attributes)} ${newestKey(context, attributes, page, keeps)}`,
}

/** What pages are the newest of: equal for two pages, equal lists. */
function newestKey(context: SiteContext, { of }: Attributes, page: Page, keeps: boolean): string {
  const section = of === 'section' ? (sectionOf(context, page, keeps)?.id ?? '') : 'site'
  return keeps ? `${section} ${context.languages.of(page)}` : section
}

/** All pages that the newest are taken from, in their order: every list is made once, and no page is in two of one kind. */
function latestOf(context: SiteContext, attributes: Attributes, page: Page, keeps: boolean): readonly Page[] {
  const key = (one: Page) => newestKey(context, attributes, one, keeps)
  const kind = `${attributes.of === 'section'} ${keeps}`
  if (!context.newest.has(kind)) {
    const lists = new Map<string, Page[]>()
    for (const one of context.dates.newest) {
      if (!listed(one)) continue
      const list = lists.get(key(one))
      if (list) list.push(one)
      else lists.set(key(one), [one])
    }
    context.newest.set(kind, [])
    for (const [of, list] of lists) context.newest.set(`${kind} ${of}`, list)
  }
  return context.newest.get(`${kind} ${key(page)}`) ?? []
}
