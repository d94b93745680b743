import type { TextKind } from '#core/find'
import { type DictionaryOf, KnownWords } from './known'
import { dictionariesFor, standsTwice } from './languages'
import { type SaidRun, runsSaid } from './said-runs'
import { eachWord } from './words-in'

/** A word that no dictionary of its language has, in one text; or one that stands there twice in a row, as `the the`. */
export interface UnknownWord {
  readonly word: string
  readonly language: string
  /** How often it stands there. */
  readonly count: number
  /** Where it stands first: its line, from 1, and what is said around it. */
  readonly line: number
  readonly before: string
  readonly after: string
}

/** What a text says that dictionaries do not know. */
export interface TextSpelling {
  readonly unknown: readonly UnknownWord[]
  /** Languages that it says something in and that there are no dictionaries of; '' for one that is not told. */
  readonly without: readonly string[]
}

/** Different words told of one text. */
const mostOfText = 1_000
/** Languages told of one text. */
const mostLanguages = 20
/** Letters shown on either side. */
const mostAround = 50

/** Looks up what texts say in dictionaries. */
export class Speller {
  readonly #known = new Map<string, KnownWords>()

  constructor(private readonly dictionaryOf: DictionaryOf) {}

  /** What words are right in a language; null where there is no dictionary of it. */
  knownIn(language: string): KnownWords | null {
    if (dictionariesFor(language).length === 0) return null
    let known = this.#known.get(language)
    if (!known) {
      // Each keeps words that it looked up, and an author may invent tags.
      if (this.#known.size >= mostLanguages) this.#known.clear()
      this.#known.set(language, (known = new KnownWords(language, this.dictionaryOf)))
    }
    return known
  }

  /** @param language of what does not say another */
  look(text: string, kind: TextKind, language: string): TextSpelling {
    const unknown = new Map<string, UnknownWord>()
    const without = new Set<string>()
    for (const run of runsSaid(text, kind, language)) {
      const known = this.knownIn(run.language)
      if (known === null) {
        if (without.size < mostLanguages) without.add(run.language)
        continue
      }
      let last = { word: '', start: 0, end: 0 }
      const isTwice = (word: string, start: number) =>
        last.word.toLowerCase() === word &&
        !standsTwice(run.language, word) &&
        run.text.slice(last.end, start).trim() === ''
      const tell = (word: string, start: number, end: number) => {
        const key = `${run.language} ${word}`
        const one = unknown.get(key)
        if (one) unknown.set(key, { ...one, count: one.count + 1 })
        // What is full of words that nobody knows is in no language, and each of them takes its time.
        else if (unknown.size < mostOfText)
          unknown.set(key, { word, language: run.language, count: 1, ...aroundIn(run, start, end) })
      }
      eachWord(run.text, ({ word, start, end, whole }, at) => {
        const before = last
        if (isTwice(word, at + start)) tell(`${before.word} ${word}`, before.start, at + end)
        last = { word, start: at + start, end: at + end }
        const isFull = unknown.size >= mostOfText
        if (!isFull && (known.has(word) || (whole !== word && known.has(whole)))) return
        // One word with what may stand beside any: `Marrow` of `Marrow's`.
        const [ahead, behind] = known.asideOf(word)
        const own = word.slice(ahead, word.length - behind)
        if (!isFull || unknown.has(`${run.language} ${own}`)) tell(own, at + start + ahead, at + end - behind)
      })
    }
    return { unknown: [...unknown.values()], without: [...without] }
  }
}

const onOneLine = (text: string) => text.toWellFormed().replace(/\s+/g, ' ')

/** Whole words beside a place, as many as fit. */
function aroundIn({ text, lineAt }: SaidRun, start: number, end: number) {
  const [from, to] = [Math.max(0, start - mostAround), Math.min(text.length, end + mostAround)]
  const before = text.slice(from, start)
  const after = text.slice(end, to)
  return {
    line: lineAt(start),
    before: (from > 0 ? `…${onOneLine(before.replace(/^\S*\s/, ''))}` : onOneLine(before)).trimStart(),
    after: (to < text.length ? `${onOneLine(after.replace(/\s\S*$/, ''))}…` : onOneLine(after)).trimEnd(),
  }
}
