import type { TextKind } from '#core/find'
import { Speller, type TextSpelling } from '#core/spelling'
import { dictionaryCalled } from './dictionaries'

/** A text, of which kind it is, and the language of what does not say another. */
export interface SpelledText {
  readonly text: string
  readonly is: TextKind
  readonly language: string
}

export type SpellingTask =
  | { readonly kind: 'look'; readonly texts: readonly SpelledText[] }
  | { readonly kind: 'near'; readonly word: string; readonly language: string }

export type SpellingAnswer = readonly TextSpelling[] | readonly string[]

const speller = new Speller(dictionaryCalled)

/** Holds texts against dictionaries, in a thread of its own that keeps those it has read. */
export default function answer(task: SpellingTask): SpellingAnswer {
  return task.kind === 'look'
    ? task.texts.map(({ text, is, language }) => speller.look(text, is, language))
    : (speller.knownIn(task.language)?.near(task.word) ?? [])
}
