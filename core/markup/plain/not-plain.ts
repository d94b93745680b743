/** Thrown where a text is not as plain as it would have to be; caught where that is asked. */
export const notPlain = new Error('not plain')

/** Leaves a text to the whole parser. */
export function leave(): never {
  // One error for all: how it came about says nothing, and noting that takes longer than all else.
  throw notPlain
}
