import { longestWord } from './known'

/** A word of a text, and where in it. */
export interface PlacedWord {
  /** With straight apostrophes, in the composed form of Unicode (NFC). */
  readonly word: string
  readonly start: number
  readonly end: number
  /** All that is written together with it by hyphens, where that is more. */
  readonly whole: string
}

/** What is no words: addresses, names of files, expressions, and what has signs of programs in it. */
const noWords = /[@\\{}<>=_#|~^]|:\/\/|\/.*\/|\.(?=[\p{L}\p{N}])|^\/|\/$/u
/** What is written together, with hyphens, too. */
const together = /[\p{L}\p{M}\p{N}]+(?:[-‐‑'’‘ʼ]+[\p{L}\p{M}\p{N}]+)*/gu
const inWords = /[\p{L}\p{M}\p{N}]+(?:['’‘ʼ][\p{L}\p{M}\p{N}]+)*/gu
const hyphens = /[‐‑]/g
const apostrophes = /[’‘ʼ]/g

/**
 * Tells all words of a text that can be looked up, in order.
 * @param tell gets each, its places counted from `at`
 */
export function eachWord(text: string, tell: (word: PlacedWord, at: number) => void): void {
  // By hand: this is done for each of the millions of words that a site may have.
  for (let at = 0; at < text.length; at++) {
    if (isSpace(text.charCodeAt(at))) continue
    let end = at + 1
    while (end < text.length && !isSpace(text.charCodeAt(end))) end++
    // What is longer is no word with signs around it; looked through, it would take as long as it likes.
    if (end - at <= mostLetters) for (const word of wordsOfChunk(text.slice(at, end))) tell(word, at)
    at = end
  }
}

const isSpace = (code: number): boolean =>
  code === 0x20 ||
  (code >= 0x09 && code <= 0x0d) ||
  code === 0xa0 ||
  (code >= 0x1680 && /\s/.test(String.fromCharCode(code)))

/** Most of a text is the same few words again and again, with the same signs around them. */
const known = new Map<string, readonly PlacedWord[]>()
const mostKnown = 20_000

function wordsOfChunk(chunk: string): readonly PlacedWord[] {
  let words = known.get(chunk)
  if (!words) {
    if (known.size >= mostKnown) known.clear()
    // Not as a piece of its text, which would be kept with it.
    known.set(structuredClone(chunk), (words = readChunk(chunk)))
  }
  return words
}

function readChunk(chunk: string): PlacedWord[] {
  if (noWords.test(chunk)) return []
  return [...chunk.matchAll(together)].flatMap(({ 0: whole, index: from }) =>
    [...whole.matchAll(inWords)].flatMap(({ 0: found, index }) => {
      if (found.length > longestWord || !isWord(found)) return []
      const start = from + index
      return [{ word: plain(found), start, end: start + found.length, whole: plain(whole) }]
    }),
  )
}

const mostLetters = 400
/** Letters of the longest word in capitals that is taken for an abbreviation. */
const longestAbbreviation = 5

const plain = (word: string) => word.replace(apostrophes, "'").replace(hyphens, '-').normalize('NFC')

/** Neither a number with letters, an initial, an abbreviation in capitals, nor a name such as `iDeal`. */
function isWord(found: string): boolean {
  if (/\p{N}/u.test(found) || [...found].length < 2) return false
  if (!/^\p{Script=Latin}/u.test(found)) return false
  if (/^[\p{Lu}\p{M}]+s?$/u.test(found) && found.length <= longestAbbreviation) return false
  return !/\p{Ll}\p{M}*\p{Lu}/u.test(found)
}
