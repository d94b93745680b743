import { entriesUnder, type GeneratedPart, levelsAttribute, levelsOf, ownAttribute, sectionOf } from './part'

/**
 * The menu of the whole site, or with `of="section"` of the section a page stands in. `levels` deep; with
 * `own="omit"` without the page itself.
 */
export const siteMenu: GeneratedPart = {
  name: 'site-menu',
  attributes: [levelsAttribute, { name: 'of', values: ['site', 'section'] }, ownAttribute],
  list: 'ul',
  marksAbove: true,
  omitsOwn: ({ own }) => own === 'omit',
  entries(context, attributes, page) {
    const levels = levelsOf(attributes)
    if (attributes.of !== 'section') return entriesUnder(context, null, levels)
    const section = sectionOf(context, page)
    return section ? entriesUnder(context, section.id, levels) : []
  },
  dependsOn: (context, attributes, page) =>
    attributes.of === 'section' ? (sectionOf(context, page)?.id ?? '') : 'whole',
  sharedLevels: (attributes) => (attributes.of === 'section' ? null : levelsOf(attributes)),
}
