import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/** Bytes at the front of a page in which browsers look for its charset (HTML §4.2.5.4). */
const lookedAt = 1024

/** Missing, late, or another charset than pages are written in. */
export const charset: Rule = {
  id: 'charset',
  grade: 'breaks',
  title: 'Pages that do not say how their letters are written',
  why: 'Letters with accents, dashes and quotation marks come out as signs that nobody can read.',
  reads: 'site',
  find: ofSkeleton(({ charset: said, elements, headStart }, source, template) => {
    const element = elements.find(({ part }) => part === 'charset')
    const write = { words: 'Write <meta charset="utf-8">', was: template.source }
    const first = { start: headStart, end: headStart, text: '\n    <meta charset="utf-8">' }
    if (said === null || !element)
      return {
        what: 'No charset is stated. Pages are written in UTF-8.',
        mends: [{ ...write, edits: [first] }],
      }
    const { start, end } = element
    if (!/^utf-?8$/i.test(said.trim()))
      return {
        mark: said,
        what: `“${said}” is stated, and pages are written in UTF-8.`,
        mends: [{ ...write, edits: [{ start, end, text: '<meta charset="utf-8">' }] }],
      }
    if (new TextEncoder().encode(source.slice(0, end)).length > lookedAt)
      return {
        mark: 'late',
        what: `The charset stands behind the first ${lookedAt} bytes, where browsers no longer look for it.`,
        mends: [{ ...write, words: 'Put it first', edits: [first, { start, end, text: '' }] }],
      }
    return null
  }, 'charset'),
}
