import { decodeHTMLStrict, encodeNonAsciiHTML } from 'entities'
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

/** A letter that sources write in several ways: composed of others, or as a character reference, by its name or its number. */
function asReference(letter: string, isExact: boolean): string {
  const letters = isExact ? [letter] : [...new Set([letter, letter.toLowerCase(), letter.toUpperCase()])]
  const ways = letters.flatMap((one) => {
    const code = one.codePointAt(0)!
    // Of a letter with several capitals only itself is looked for.
    if ([...one].length > 1) return []
    return [one, one.normalize('NFD'), encodeNonAsciiHTML(one), `&#0*${code};`, `&#x0*${code.toString(16)};`]
  })
  return `(?:${[...new Set(ways)].join('|')})`
}

const patternOf = (word: string, isExact: boolean): string =>
  [...word]
    .map(
      (letter) =>
        alsoWritten[letter] ??
        (letter.codePointAt(0)! > 127
          ? asReference(letter, isExact)
          : letter.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')),
    )
    .join('')

/** Whether a character reference beside a place stands for a letter of the same word. */
const isInWord = (reference: RegExpExecArray | null): boolean =>
  reference !== null && /^[\p{L}\p{M}\p{N}]/u.test(decodeHTMLStrict(reference[0]))
/** Letters of the longest name of one that stands for a letter. */
const longestName = 12

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
  const inner = parts.map((part) => patternOf(part, isExact)).join(gap)
  const letter = '[\\p{L}\\p{M}\\p{N}_]'
  // What is no letter itself has no word that it could stand within.
  const isLetter = new RegExp(letter, 'u')
  const starts = isWhole && isLetter.test([...parts[0]!][0]!) ? `(?<!${letter})` : ''
  const ends = isWhole && isLetter.test([...parts.at(-1)!].at(-1)!) ? `(?!${letter})` : ''
  const pattern = new RegExp(`${starts}${inner}${ends}`, isExact ? 'gu' : 'giu')
  return (text) => {
    const places = Array.from(text.matchAll(pattern), ({ 0: found, index }) => ({ start: index, end: index + found.length })) // prettier-ignore
    if (starts === '' && ends === '') return places
    return places.filter(
      ({ start, end }) =>
        !(
          starts !== '' &&
          text[start - 1] === ';' &&
          isInWord(/&#?\w+;$/.exec(text.slice(Math.max(0, start - longestName), start)))
        ) &&
        !(ends !== '' && text[end] === '&' && isInWord(/^&#?\w+;/.exec(text.slice(end, end + longestName)))),
    )
  }
}
