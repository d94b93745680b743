import type { Rule } from '../../rule'

/** A base address leads every relative reference elsewhere, and those are written for where a page stands. */
export const baseAddress: Rule = {
  id: 'base-address',
  grade: 'breaks',
  title: 'Addresses that would lead every link elsewhere',
  why: 'Every link is written for the place where its page stands, and a base address would lead it elsewhere.',
  reads: 'text',
  find: ({ bases }, at, was) =>
    bases.map((base, index) => ({
      mark: String(index),
      place: at(base),
      what: 'A “base” element with an address stands here; it is left out of what comes out.',
      mends: [{ words: 'Take it away', edits: [{ start: base.start, end: base.end, text: '' }], was }],
    })),
}
