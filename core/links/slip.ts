import leven from 'leven'

/** Letters that are compared; longer words that differ at all are no slips. */
const longest = 80

/** What parts words in names, which people write now so, now so. */
const gaps = /[\s._+-]+|%20/g

/**
 * Whether one word may be the other with a slip of the hand: other capitals or gaps between words, or as few letters too
 * many, lacking or wrong as a careful reader would overlook (Levenshtein's distance: one, and one more for each four letters
 * beyond the first four), or two that changed places.
 */
export function isSlip(a: string, b: string): boolean {
  const [one, other] = [a, b].map((word) => word.toLowerCase().replace(gaps, '')) as [string, string]
  if (one === other) return true
  const length = Math.min(one.length, other.length)
  const most = Math.max(1, Math.floor(length / 4))
  const apart = Math.abs(one.length - other.length)
  if (length < 3 || length + apart > longest || apart > most) return false
  // Names that differ in their numbers alone are those of two things.
  if (one.replace(/\d+/g, '') === other.replace(/\d+/g, '')) return false
  return isSwapped(one, other) || leven(one, other) <= most
}

/** Whether two neighbouring letters changed places, and nothing else. */
function isSwapped(one: string, other: string): boolean {
  if (one.length !== other.length) return false
  let at = 0
  while (at < one.length && one[at] === other[at]) at++
  return one[at] === other[at + 1] && one[at + 1] === other[at] && one.slice(at + 2) === other.slice(at + 2)
}
