import {
  datesAttribute,
  descriptionsAttribute,
  entriesUnder,
  type GeneratedPart,
  homeFor,
  levelsAttribute,
  levelsOf,
  newestFirst,
} from './part'

/**
 * The pages below the page, `levels` deep; nothing on a home page. With `order="newest"` those that carry a date come first,
 * the newest of them in front; with `dates="show"` each has its date in front, and with `descriptions="show"` what it says of itself.
 */
export const pageChildren: GeneratedPart = {
  name: 'page-children',
  attributes: [
    levelsAttribute,
    { name: 'order', values: ['plan', 'newest'] },
    datesAttribute('hide', 'show'),
    descriptionsAttribute,
  ],
  list: 'ul',
  dates: ({ dates }) => dates === 'show',
  describes: ({ descriptions }) => descriptions === 'show',
  entries: (context, attributes, page, keeps) =>
    page.id === homeFor(context, page, keeps).id
      ? []
      : entriesUnder(
          context,
          page.id,
          levelsOf(attributes),
          keeps,
          attributes.order === 'newest' ? (pages) => newestFirst(context, pages) : undefined,
        ),
}
