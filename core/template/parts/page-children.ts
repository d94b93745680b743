import { entriesUnder, type GeneratedPart, homeFor, levelsAttribute, levelsOf } from './part'

/**
 * The pages below the page, `levels` deep; nothing on a home page. With `descriptions="show"` each with
 * its description.
 */
export const pageChildren: GeneratedPart = {
  name: 'page-children',
  attributes: [levelsAttribute, { name: 'descriptions', values: ['show', 'hide'] }],
  list: 'ul',
  describes: ({ descriptions }) => descriptions === 'show',
  entries: (context, attributes, page, keeps) =>
    page.id === homeFor(context, page, keeps).id
      ? []
      : entriesUnder(context, page.id, levelsOf(attributes), keeps),
}
