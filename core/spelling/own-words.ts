/**
 * Tells words that are right in one site whatever dictionaries say: as they are kept, in capitals, and one that is kept in small
 * letters with a capital where a sentence begins; each with `'s`, too.
 */
export function ownWords(kept: readonly string[]): (word: string) => boolean {
  const exact = new Set(kept)
  const inCapitals = new Set(kept.map((word) => word.toUpperCase()))
  const stands = (word: string) =>
    exact.has(word) || exact.has(word[0]!.toLowerCase() + word.slice(1)) || inCapitals.has(word)
  return (word) => stands(word) || (/.'[sS]$/.test(word) && stands(word.slice(0, -2)))
}
