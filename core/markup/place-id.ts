/** Letters of an id that is made of a heading. */
const longestId = 60

/**
 * An `id` for a heading, made of its words (HTML §3.2.6: any text without white space): lower-case letters
 * and digits of any script, joined by hyphens, and no other's id.
 */
export function placeId(text: string, taken: Iterable<string>): string {
  const words = text
    .normalize('NFD')
    // Accents of Latin letters go; marks that other scripts need stay with what they belong to.
    .replace(/(\p{Script=Latin})\p{M}+/gu, '$1')
    .normalize('NFC')
    .toLowerCase()
    .replace(/[’']/gu, '')
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, '-')
    .replace(/^-+/, '')
  const cut = words.length > longestId ? words.slice(0, longestId).replace(/-[^-]*$/, '') : words
  const base = cut.replace(/-+$/, '').toWellFormed() || 'part'
  const used = taken instanceof Set ? (taken as ReadonlySet<string>) : new Set(taken)
  for (let number = 1; ; number++) {
    const id = number === 1 ? base : `${base}-${number}`
    if (!used.has(id)) return id
  }
}
