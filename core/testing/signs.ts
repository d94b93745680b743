import fc from 'fast-check'

/** Halves of pairs are no signs (Unicode §3.9, D76). */
const firstHalf = 0xd800
const halves = 0x800

/**
 * Any sign of Unicode, as a unit of `fc.string`. The unit 'binary' gives the same, but makes a table of all the million signs
 * in each file of tests that asks for it: a second, and memory that is not given back.
 */
export const anySign: fc.Arbitrary<string> = fc.integer({ min: 0, max: 0x10ffff - halves }).map(
  (nth) => String.fromCodePoint(nth < firstHalf ? nth : nth + halves),
  (sign) => {
    const code = typeof sign === 'string' ? sign.codePointAt(0) : undefined
    if (
      code === undefined ||
      sign !== String.fromCodePoint(code) ||
      (code >= firstHalf && code < firstHalf + halves)
    )
      throw new Error('No sign')
    return code < firstHalf ? code : code - halves
  },
)
