import { type Base, baseOf, isFixedBase, rebase } from '#core/links'
import { type HtmlFacts, type TextEdit, writeReference } from '#core/markup'
import type { Mend, Rule } from '../../rule'

/** A base that says the same wherever its page stands; one like `../` does not, and pages move. */
function fixedBase(href: string): Base | null {
  return isFixedBase(href) ? baseOf(href, '') : null
}

/** Edits that write references as they lead with the base address, where it makes a difference. */
function withBase(references: HtmlFacts['references'], base: Base): TextEdit[] {
  return references.flatMap((reference) => {
    const href = rebase(reference.href, base)
    return href === null
      ? []
      : [{ start: reference.start, end: reference.end, text: writeReference(reference, href) }]
  })
}

/** A base address leads every relative reference elsewhere, and those are written for where a page stands. */
export const baseAddress: Rule = {
  id: 'base-address',
  grade: 'breaks',
  title: 'Addresses that would lead every link elsewhere',
  why: 'Every link is written for the place where its page stands, and a base address would lead it elsewhere.',
  reads: 'text',
  find: ({ bases, references }, at, was) =>
    bases.map((base, index) => {
      const away = { start: base.start, end: base.end, text: '' }
      // Of several, browsers take the first.
      const leads = index === 0 ? fixedBase(base.href) : null
      const edits = leads ? withBase(references, leads) : []
      const count = edits.length === 1 ? 'the link' : `${edits.length} links`
      const takeAway: Mend = { words: 'Take it away', edits: [away], was }
      return {
        mark: String(index),
        place: at(base),
        what: 'A “base” element with an address stands here; it is left out of what comes out.',
        mends:
          edits.length === 0
            ? [takeAway]
            : [
                {
                  words: `Write ${count} as it makes them lead, and take it away`,
                  edits: [...edits, away],
                  was,
                },
                { ...takeAway, words: 'Take it away and leave the links as they are', isOther: true },
              ],
      }
    }),
}
