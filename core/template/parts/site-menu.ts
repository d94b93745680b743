import {
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
 * The menu of the whole site, or with `of="section"` of the section a page stands in, with `of="language"` of what is in the
 * page's language, wherever the home page in that is. `levels` deep; with
 * `own="omit"` without the page itself, with `home="first"` beginning with the home page, or of a section with the page that it
 * is below.
 */
export const siteMenu: GeneratedPart = {
  name: 'site-menu',
  attributes: [
    levelsAttribute,
    { name: 'of', values: ['site', 'section', 'language'] },
    ownAttribute,
    { name: 'home', values: ['omit', 'first'] },
  ],
  list: 'ul',
  marksAbove: true,
  keepsLanguage: ({ of }) => of === 'language',
  omitsOwn: ({ own }) => own === 'omit',
  entries(context, attributes, page, keeps) {
    const isSection = attributes.of === 'section'
    const top = isSection ? sectionOf(context, page, keeps) : homeFor(context, page, keeps)
    if (!top) return []
    return [
      ...(attributes.home === 'first' ? flat([top]) : []),
      // What stands under the home page in the plan stands beside it.
      ...entriesUnder(context, top.id === context.site.homeId ? null : top.id, levelsOf(attributes), keeps),
    ]
  },
  dependsOn: (context, attributes, page, keeps) =>
    attributes.of === 'section'
      ? (sectionOf(context, page, keeps)?.id ?? '')
      : `whole ${homeFor(context, page, keeps).id}`,
  sharedLevels: (attributes) => (attributes.of === 'section' ? null : levelsOf(attributes)),
}
