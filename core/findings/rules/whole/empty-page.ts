import { textsOfPage } from '#core/site'
import { inPage, type Rule } from '../../rule'

/** A page in which nothing is written yet, and below which nothing stands either. */
export const emptyPage: Rule = {
  id: 'empty-page',
  grade: 'hinders',
  title: 'Empty pages',
  why: 'A visitor follows a link to it and finds a heading with nothing below.',
  reads: 'page',
  find(page, { factsOf, tree }) {
    if (tree.childrenOf(page.id).some((one) => !one.trial)) return null
    const isEmpty = textsOfPage(page).every(({ hash }) => {
      const { wordCount, references } = factsOf(hash)
      return wordCount === 0 && !references.some(({ holder }) => !holder.startsWith('a '))
    })
    if (!isEmpty) return null
    return {
      place: inPage(page),
      what: 'Nothing is written in this page.',
      mends: [
        {
          words: 'Make it a trial page for now',
          change: { kind: 'setPageFlag', pageIds: [page.id], flag: 'trial', value: true },
          isOther: true,
        },
      ],
    }
  },
}
