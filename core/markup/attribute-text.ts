import { decodeHTMLAttribute } from 'entities'

/** An attribute's value as it is understood, and where each of its code units stands in its source. */
export interface AttributeText {
  readonly text: string
  /** Offset in the source of a position in the text, its end included. */
  sourceAt(position: number): number
}

/** A value without character references. */
export const literalText = (text: string): AttributeText => ({ text, sourceAt: (position) => position })

const candidate = /&(?:#[xX]?[0-9a-fA-F]+;?|[A-Za-z][A-Za-z0-9]{0,40};?)/g

/**
 * The value of an attribute with its character references resolved (HTML §13.2.5.73), so that what is
 * found in it can be changed in the source. Linear in the source.
 */
export function readAttributeText(source: string): AttributeText {
  if (!source.includes('&')) return literalText(source)
  /** Where the text and the source are shifted against each other: after each reference. */
  const shifts: { readonly text: number; readonly source: number }[] = [{ text: 0, source: 0 }]
  const parts: string[] = []
  let at = 0
  let length = 0
  for (const { 0: token, index } of source.matchAll(candidate)) {
    const end = index + token.length
    // Without a semicolon what follows decides whether it is a reference at all.
    const after = source[end] === '=' ? '=' : ''
    const decoded = decodeHTMLAttribute(token + after).slice(0, after === '' ? undefined : -1)
    if (decoded === token) continue
    parts.push(source.slice(at, index), decoded)
    length += index - at
    // Inside a reference there is no place: all of it stands where it begins.
    for (let unit = 1; unit < decoded.length; unit++) shifts.push({ text: length + unit, source: index })
    length += decoded.length
    shifts.push({ text: length, source: end })
    at = end
  }
  parts.push(source.slice(at))
  return {
    text: parts.join(''),
    sourceAt(position) {
      let low = 0
      let high = shifts.length - 1
      while (low < high) {
        const middle = (low + high + 1) >> 1
        if (shifts[middle]!.text <= position) low = middle
        else high = middle - 1
      }
      const shift = shifts[low]!
      return shift.source + (position - shift.text)
    },
  }
}
