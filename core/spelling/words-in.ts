import { longestWord } from './known'

/** A word of a run. */
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
const chunks = /\S+/g
const hyphens = /[‐‑]/g
const apostrophes = /[’‘ʼ]/g

/** All words of a text that can be looked up, in order. */
export function* wordsIn(text: string): Generator<PlacedWord> {
  for (const { 0: chunk, index: at } of text.matchAll(chunks)) {
    // What is longer is no word with signs around it; looked through, it would take as long as it likes.
    if (chunk.length > mostLetters || noWords.test(chunk)) continue
    for (const { 0: whole, index: from } of chunk.matchAll(together))
      for (const { 0: found, index } of whole.matchAll(inWords)) {
        if (found.length > longestWord || !isWord(found)) continue
        const start = at + from + index
        yield { word: plain(found), start, end: start + found.length, whole: plain(whole) }
      }
  }
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
