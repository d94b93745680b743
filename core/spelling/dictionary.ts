import { decodeTrie } from 'cspell-trie-lib'

/** Words of one language. */
export interface Dictionary {
  /** Whether a word is one of them, with the capitals that it has. */
  has(word: string): boolean
  /** Words that are written much as one is, the nearest first, each with how far it is. */
  near(word: string): { readonly word: string; readonly cost: number }[]
}

/** As many as can be told apart at a glance. */
const mostNear = 6
/** How long they may be looked for: one is asked for at a time, and none is needed. */
const nearMs = 400

/** Of what nobody wrote down as a word there is no end: one that is made of others is meant less often. */
const costOfJoining = 60

/** @param bytes a list of words as a compact prefix tree, unpacked */
export function dictionaryOf(bytes: Uint8Array<ArrayBuffer>): Dictionary {
  const words = decodeTrie(bytes)
  const isJoined = (word: string) => words.findWord(word, { caseSensitive: true }).compoundUsed
  return {
    has: (word) => words.hasWord(word, true),
    near: (word) =>
      words
        .suggestWithCost(word, { numSuggestions: mostNear, timeout: nearMs, ignoreCase: false })
        .map(({ word, cost }) => ({ word, cost: cost + (isJoined(word) ? costOfJoining : 0) })),
  }
}
