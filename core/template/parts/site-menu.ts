import {
  entriesFor,
  entriesUnder,
  flat,
  type GeneratedPart,
  homeFor,
  levelsAttribute,
  levelsOf,
  ownAttribute,
  sectionOf,
} from './part'

/**
 * The menu of the whole site, of one whose home page is in several languages what is in the page's own; or with `of="section"` of the section a page stands in. `levels` deep; with
 * `own="omit"` without the page itself, with `home="first"` beginning with the home page, or of a section with the page that it
 * is below.
 */
export const siteMenu: GeneratedPart = {
  name: 'site-menu',
  attributes: [
    levelsAttribute,
    { name: 'of', values: ['site', 'section'] },
    ownAttribute,
    { name: 'home', values: ['omit', 'first'] },
  ],
  list: 'ul',
  marksAbove: true,
  omitsOwn: ({ own }) => own === 'omit',
  entries(context, attributes, page) {
    const levels = levelsOf(attributes)
    if (attributes.of !== 'section') {
      const home = attributes.home === 'first' ? [homeFor(context, page)] : []
      return [...flat(home), ...entriesFor(context, page, levels)]
    }
    const section = sectionOf(context, page)
    if (!section) return []
    const above = attributes.home === 'first' ? flat([section]) : []
    return [...above, ...entriesUnder(context, section.id, levels)]
  },
  dependsOn: (context, attributes, page) =>
    attributes.of === 'section' ? (sectionOf(context, page)?.id ?? '') : `whole ${homeFor(context, page).id}`,
  sharedLevels: (attributes) => (attributes.of === 'section' ? null : levelsOf(attributes)),
}
