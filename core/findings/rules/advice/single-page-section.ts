import { branchOf } from '#core/plan'
import { inPage, type Rule } from '../../rule'

/** A section of one page. */
export const singlePageSection: Rule = {
  id: 'single',
  grade: 'detail',
  title: 'Sections of one page',
  why: 'A visitor who opens the section has to choose among one.',
  reads: 'page',
  find(page, { tree }) {
    const below = tree.childrenOf(page.id).filter((one) => !one.trial)
    if (below.length !== 1 || branchOf(tree, page.id).length !== 2) return null
    return {
      place: inPage(page),
      what: `“${page.label}” is a section of one page, “${below[0]!.label}”; the two might be one page.`,
    }
  },
}
