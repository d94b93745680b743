import { inPage, type Rule } from '../../rule'

/** A page without a date among pages that carry one. */
export const undatedPage: Rule = {
  id: 'undated-page',
  grade: 'detail',
  title: 'Pages without a date in a section that has dates',
  why: 'Its name does not sort with the others, and lists of what is new and feeds leave it out.',
  reads: 'site',
  find: ({ pages, tree, dates }) =>
    pages.flatMap((page) => {
      const section = page.parentId === null ? undefined : tree.byId.get(page.parentId)
      return section?.dated && dates.of(page) === null
        ? [
            {
              place: inPage(page),
              what: `The pages of “${section.label}” carry dates. This one has none, and none stands in its label.`,
            },
          ]
        : []
    }),
}
