import { inPage, type Rule } from '../../rule'

const deepest = 3

/** A page that stands below the levels visitors go to. */
export const deepPage: Rule = {
  id: 'deep',
  grade: 'detail',
  title: 'Deep pages',
  why: 'With each level fewer visitors go on.',
  reads: 'page',
  find: (page, { tree }) =>
    tree.placeOf.get(page.id)?.depth === deepest
      ? {
          place: inPage(page),
          what: `“${page.label}” stands on level ${deepest + 1}; pages deeper than ${deepest} levels are seldom found.`,
        }
      : null,
}
