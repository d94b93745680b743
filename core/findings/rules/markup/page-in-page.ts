import { textsOfPage } from '#core/site'
import { givesOutWhole } from '#core/template'
import { inSlot, type Rule } from '../../rule'

/**
 * A whole document where a piece of one belongs: its template has a doctype, a head and a body already, and there is one of
 * each in a page (HTML §4.1.1).
 */
export const pageInPage: Rule = {
  id: 'page-in-page',
  grade: 'hinders',
  title: 'Whole pages inside of pages',
  why: 'The template makes what stands around a page. What comes a second time is passed over, or changes what the first says.',
  reads: 'page',
  find(page, { factsOf, templates }) {
    if (!templates) return null
    const template = templates.of(page)
    if (givesOutWhole(template)) return null
    return textsOfPage(page).flatMap(({ slot, hash }) => {
      const { document: own } = factsOf(hash)
      if (!own || !template.slots.some(({ name, isValue }) => name === slot && !isValue)) return []
      return {
        mark: slot,
        place: inSlot(page, slot, own),
        what: 'Here stands a document with a head and a body of its own, and not what its body says alone.',
        mends: [
          {
            words: 'Keep what stands in its body',
            edits: own.extra.map(({ start, end }) => ({ start, end, text: '' })),
            was: hash,
          },
        ],
      }
    })
  },
}
