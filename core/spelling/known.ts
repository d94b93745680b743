import { likeFound } from '#core/find'
import type { Dictionary } from './dictionary'
import { dictionariesFor, type DictionaryName, joinsWords } from './languages'

/** Dictionaries by their names, each read when it is first asked for. */
export type DictionaryOf = (name: DictionaryName) => Dictionary

/** Letters of the longest word that is looked up: what is longer is no word of any dictionary. */
export const longestWord = 60
/** Letters of the longest that is told: one that stands twice in a row. */
export const longestTold = 2 * longestWord + 1

/** What stands in front of an apostrophe instead of a word that lost its end. */
const elided = /^(?:[cdjlmnst]|qu|jusqu|lorsqu|puisqu|quoiqu|presqu|quelqu)$/i
/** What stands behind one: `Marrow's`, `they'll`. */
const clitic = /^(?:s|d|ll|ve|re|m)$/i

const capitalised = (word: string) => word[0]!.toUpperCase() + word.slice(1)

/** Letters that join the words of which one is made: `Küste-n-wacht`, `Sicherheit-s-dienst`. */
const joints = ['', 's', 'n', 'en', 'es', 'e', 'er'] as const
/** Letters that each of them has at the least: with fewer, much that is mistyped would be taken for two words. */
const leastJoined = 4

/** What words are right in one language. */
export class KnownWords {
  readonly #names: readonly DictionaryName[]
  readonly #known = new Map<string, boolean>()

  /** @param language tag of BCP 47 that has dictionaries; see `dictionariesFor` */
  constructor(
    private readonly language: string,
    private readonly dictionaryOf: DictionaryOf,
  ) {
    this.#names = dictionariesFor(language)
  }

  /** Whether a word is right, however its capitals say where it stands. */
  has(word: string): boolean {
    let is = this.#known.get(word)
    if (is === undefined) {
      if (this.#known.size > mostKept) this.#known.clear()
      is = this.#isRight(word)
      this.#known.set(word, is)
    }
    return is
  }

  #isRight(word: string): boolean {
    if (this.#stands(word)) return true
    const [ahead, behind] = this.asideOf(word)
    if (ahead + behind > 0) return this.has(word.slice(ahead, word.length - behind))
    return this.#names.some(joinsWords) && this.#isJoined(word, mostJoined)
  }

  /** Letters of a word that are others, ahead of it and behind it, by an apostrophe: of `Marrow's` and `d'Arvor`. */
  asideOf(word: string): readonly [number, number] {
    const [first, last] = [word.indexOf("'"), word.lastIndexOf("'")]
    const ahead = first > 0 && this.#names.includes('fr') && elided.test(word.slice(0, first)) ? first + 1 : 0
    const behind = last > ahead && clitic.test(word.slice(last + 1)) ? word.length - last : 0
    return [ahead, behind]
  }

  /** Whether a dictionary has it: as it is, in small letters where it begins a sentence, or as a name in capitals. */
  #stands(word: string): boolean {
    const lower = word.toLowerCase()
    const forms = lower === word ? [word] : word.toUpperCase() === word ? [word, lower, capitalised(lower)] : [word, likeSmall(word)]
    // As some dictionaries write it, and others.
    const all = forms.flatMap((form) => (form.includes("'") ? [form, form.replaceAll("'", '’')] : [form]))
    return this.#names.some((name) => all.some((form) => this.#of(name).has(form))) || this.#standsWithoutSharp(lower, forms)
  } // prettier-ignore

  /** In Switzerland and Liechtenstein `ß` is written `ss`. */
  #standsWithoutSharp(lower: string, forms: readonly string[]): boolean {
    if (!/^de-(?:CH|LI)/i.test(this.language) || !lower.includes('ss')) return false
    return forms.some((form) => this.#of('de').has(form.replaceAll('ss', 'ß')))
  }

  /** Whether it is made of words without a gap. */
  #isJoined(word: string, most: number): boolean {
    for (let at = leastJoined; at <= word.length - leastJoined; at++) {
      const [first, rest] = [word.slice(0, at), word.slice(at)]
      if (!joints.some((joint) => first.endsWith(joint) && this.#canJoin(first.slice(0, first.length - joint.length)))) continue
      if (this.#canJoin(rest) || (most > 2 && this.#isJoined(rest, most - 1))) return true
    }
    return false
  } // prettier-ignore

  /** A noun stands in the middle of a word in small letters. */
  #canJoin(part: string): boolean {
    if (part.length < leastJoined) return false
    return this.#stands(part) || this.#stands(capitalised(part))
  }

  #of(name: DictionaryName): Dictionary {
    return this.dictionaryOf(name)
  }

  /** What a word that is not known may be meant for, the nearest first, with its capitals; of one that stands twice, it once. */
  near(word: string): string[] {
    const [once, ...again] = word.split(' ')
    if (again.length > 0) return [once!]
    // What is further off is seldom meant, and names are mostly no slip of anything.
    const most = word.length >= leastForTwo ? 2 : 1
    const found = this.#names.flatMap((name) => this.#of(name).near(word))
    // A name is seldom meant by what is written in small letters.
    const isSmall = word === word.toLowerCase()
    const costOf = (one: { word: string; cost: number }) =>
      one.cost + (isSmall && one.word !== one.word.toLowerCase() ? costOfName : 0)
    // Of a word in capitals all are far.
    const small = word.toLowerCase()
    if (small !== word) found.push(...this.#names.flatMap((name) => this.#of(name).near(small)))
    const nearest = found
      .filter(({ cost }) => cost < (most + 0.5) * costOfOne)
      .sort((a, b) => costOf(a) - costOf(b))
      .map((one) => likeFound(one.word, word))
    // Dictionaries have the beginnings of joined words, too, and join words with the capitals that they have.
    const offered = new Map<string, string>()
    for (const one of nearest)
      if (one !== word && isWhole.test(one) && this.has(one) && !offered.has(one.toLowerCase()))
        offered.set(one.toLowerCase(), one)
    return [...offered.values()].slice(0, mostOffered)
  }
}

const isWhole = /^(?:[^\p{Ll}]+|\P{Lu}+|\p{Lu}\P{Lu}+)(?<!-)$/u
/** What one letter that is another, missing or too many costs. */
const costOfOne = 100
const costOfName = 120
/** Letters of a word in which two may be wrong. */
const leastForTwo = 9
const mostKept = 50_000
const mostJoined = 3
const mostOffered = 4

const likeSmall = (word: string) => word[0]!.toLowerCase() + word.slice(1)
