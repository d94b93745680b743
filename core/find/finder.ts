import type { Range } from '#core/markup'

/** What is looked for. */
export interface Wanted {
  readonly words: string
  /** Whether capital and small letters are told apart. */
  readonly isExact: boolean
  /** Whether it has to stand by itself, and not within a longer word. */
  readonly isWhole: boolean
  /** Whether it may stand in tags, addresses, style sheets and scripts, too, and not only in what visitors read. */
  readonly inSource: boolean
}

/** Letters that stand in a source in several ways, as patterns (HTML §13.1.4). */
const alsoWritten: Readonly<Record<string, string>> = {
  '&': '&(?:amp;)?',
  '<': '(?:<|&lt;)',
  '>': '(?:>|&gt;)',
  '"': '(?:"|&quot;|[“”„])',
  "'": "(?:['’‘]|&apos;|&#39;|&rsquo;)",
  '’': "(?:['’‘]|&apos;|&#39;|&rsquo;)",
  '-': '(?:[-‐‑]|&#8209;)',
  '–': '(?:–|&ndash;)',
  '—': '(?:—|&mdash;)',
}
/** Words that are looked for, in letters: what finding them takes grows with it. */
export const mostWords = 200

/** Lines of a source may break anywhere between words. */
const gap = '(?:\\s|&nbsp;)+'

const patternOf = (word: string): string =>
  [...word].map((letter) => alsoWritten[letter] ?? letter.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')).join('')

/**
 * Makes what finds all places of some words in a text, in order, none within another: as they are written in the source, whichever
 * way that writes their signs and however many lines they stand on.
 * @returns null where there is nothing to look for
 */
export function finderOf({
  words,
  isExact,
  isWhole,
}: Omit<Wanted, 'inSource'>): ((text: string) => Range[]) | null {
  const parts = words.normalize('NFC').split(/[\s\u00a0]+/).filter((word) => word !== '') // prettier-ignore
  if (parts.length === 0) return null
  const inner = parts.map(patternOf).join(gap)
  const letter = '[\\p{L}\\p{M}\\p{N}_]'
  // What is no letter itself has no word that it could stand within.
  const isLetter = new RegExp(letter, 'u')
  const starts = isWhole && isLetter.test([...parts[0]!][0]!) ? `(?<!${letter})` : ''
  const ends = isWhole && isLetter.test([...parts.at(-1)!].at(-1)!) ? `(?!${letter})` : ''
  const pattern = new RegExp(`${starts}${inner}${ends}`, isExact ? 'gu' : 'giu')
  return (text) => Array.from(text.matchAll(pattern), ({ 0: found, index }) => ({ start: index, end: index + found.length })) // prettier-ignore
}
