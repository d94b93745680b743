import { entriesUnder, type GeneratedPart, levelsOf } from './part'

/** The pages below the page, `levels` deep; nothing on the home page. */
export const pageChildren: GeneratedPart = {
  name: 'page-children',
  attributes: ['levels'],
  list: 'ul',
  entries: (context, attributes, page) =>
    page.id === context.site.homeId ? [] : entriesUnder(context, page.id, levelsOf(attributes)),
}
