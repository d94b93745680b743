import { sentences } from './sentences'

type Sentences = typeof sentences
export type ProblemCode = keyof Sentences
/** What a problem's sentence has to be told; nothing for most. */
export type AboutProblem<C extends ProblemCode> = Parameters<Sentences[C]['say']>[0]

interface Options {
  readonly cause?: unknown
  /** What a window needs to go on, as plain data. */
  readonly detail?: unknown
}

type Told<C extends ProblemCode> =
  AboutProblem<C> extends void
    ? [about?: null, options?: Options]
    : [about: AboutProblem<C>, options?: Options]

/** The sentence of a problem. */
export const sentenceOf = <C extends ProblemCode>(code: C, about: AboutProblem<C>): string =>
  (sentences[code].say as (about: AboutProblem<C>) => string)(about)

/** An expected failure: a code to switch on, and the sentence for the author that belongs to it. */
export class Problem<C extends ProblemCode = ProblemCode> extends Error {
  readonly code: ProblemCode
  /** HTTP status it answers with. */
  readonly status: number
  readonly detail: unknown

  constructor(code: C, ...[about, { cause, detail = null } = {}]: Told<C>) {
    super(sentenceOf(code, about as AboutProblem<C>), { cause })
    this.code = code
    this.status = sentences[code].status
    this.detail = detail
  }
}
