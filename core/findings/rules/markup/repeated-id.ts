import { textsOfPage } from '#core/site'
import { inPage, type Rule } from '../../rule'

/** An `id` that a page has twice (HTML §3.2.6). */
export const repeatedId: Rule = {
  id: 'repeated-id',
  grade: 'hinders',
  title: 'One name for two places',
  why: 'A link to it leads to the first of them, and so do styles and scripts.',
  reads: 'page',
  find(page, { factsOf }) {
    const seen = new Set<string>()
    const twice = new Set<string>()
    for (const { hash } of textsOfPage(page))
      for (const id of factsOf(hash).ids) (seen.has(id) ? twice : seen).add(id)
    if (twice.size === 0) return null
    const names = [...twice]
      .slice(0, 5)
      .map((id) => `“${id}”`)
      .join(', ')
    return {
      mark: [...twice].join(' ').slice(0, 200),
      place: inPage(page),
      what: `The id ${names} is given more than once.`,
    }
  },
}
