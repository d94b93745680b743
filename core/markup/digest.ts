/**
 * What stands for a text where only equal ones are asked for: 112 bits, so that a site of a hundred thousand pages has no two by
 * chance. Nothing secret hangs on it: who makes two on purpose mixes up their own pages. Four mixers of 32 bits go over the
 * text once.
 */
export function digestOf(text: string): string {
  let a = 0x9e3779b1 ^ text.length
  let b = 0x85ebca77
  let c = 0xc2b2ae3d
  let d = 0x27d4eb2f
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at)
    a = Math.imul(a ^ code, 0x85ebca6b)
    b = Math.imul(b ^ code, 0xc2b2ae35)
    c = Math.imul(c ^ code, 0x27d4eb2d)
    d = Math.imul(d ^ code, 0x165667b1)
    // Without it a mixer would forget its upper half: what is multiplied only ever moves upwards.
    a ^= a >>> 15
    c ^= c >>> 13
    b ^= a >>> 7
    d ^= c >>> 11
  }
  a = Math.imul(a ^ (d >>> 16), 0x2c1b3c6d)
  b = Math.imul(b ^ (a >>> 15), 0x297a2d39)
  c = Math.imul(c ^ (b >>> 13), 0x1b873593)
  d = Math.imul(d ^ (c >>> 16), 0x45d9f3b)
  return String.fromCharCode(
    (a >>> 16) & 0xffff, a & 0xffff, (b >>> 16) & 0xffff, b & 0xffff, (c >>> 16) & 0xffff, c & 0xffff, d & 0xffff,
  ) // prettier-ignore
}

/** What stands for words that follow one another, however spaces and tags part them: hexadecimal, as it is kept. */
export function digestOfWords(pieces: readonly string[]): string {
  const digest = digestOf(pieces.join('').replace(/\s+/g, ''))
  return Array.from(digest, (_, index) => digest.charCodeAt(index).toString(16).padStart(4, '0')).join('')
}
