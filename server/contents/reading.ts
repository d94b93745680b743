import type { Piscina } from 'piscina'
import { readNewPlan } from '#core/change'
import type { FoundWords, Wanted } from '#core/find'
import {
  type FileFacts,
  type FileSyntax,
  type HtmlFacts,
  readFile,
  readHtml,
  readStyle as styleFacts,
  type StyleFacts,
} from '#core/markup'
import { Problem } from '#core/problems'
import { deadline, log, threadsOf } from '#server/platform'
import type { ReadingAnswer, ReadingTask, TextOfKind, WordsTask } from './reading.worker'

/**
 * Texts up to this size and number of tags are read where they are asked for: some milliseconds at the
 * most. The tags count, since a parser may open again all that is open with each of them.
 */
const readAtOnce = 20_000
const tagsAtOnce = 250
/** Tags and rules one text may have, in what opens them. */
const mostTags = 250_000
/** How long one text may be read; tests, which run into it, wait less. */
export const readingLimits = { deadlineMs: 15_000 }
/** What reading one text may take. */
const memoryMb = 768
/** Threads that read; further texts wait for one. */
const readers = 2

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantReaders?: Piscina<ReadingTask | WordsTask, ReadingAnswer> }

/** The threads that read, started when they are needed first. */
function pool(): Piscina<ReadingTask | WordsTask, ReadingAnswer> {
  return (globals.rubricantReaders ??= threadsOf('server/contents/reading.worker.ts', {
    threads: readers,
    memoryMb,
    waiting: 200,
  }))
}

const tooHeavy = (cause?: unknown) => new Problem('too-heavy', null, { cause })

function countOf(text: string, sign: string, most: number): number {
  let count = 0
  for (let at = text.indexOf(sign); at >= 0 && count <= most; at = text.indexOf(sign, at + 1)) count++
  return count
}

async function read<Facts>(task: ReadingTask, here: (text: string) => Facts): Promise<Facts> {
  const sign = { html: '<', template: '<', css: '{', file: null, plan: null }[task.kind]
  const isLight = sign !== '<' || countOf(task.text, sign, tagsAtOnce) <= tagsAtOnce
  // Copied as from a thread: pieces of a text would keep all of it in memory for as long as they are kept.
  if (task.text.length <= readAtOnce && isLight) return structuredClone(here(task.text))
  if (sign !== null && countOf(task.text, sign, mostTags) > mostTags) throw tooHeavy()
  try {
    return (await pool().run(task, { signal: deadline(readingLimits.deadlineMs) })) as Facts
  } catch (error) {
    // Out of time, out of memory or out of stack: the thread is gone, and the text is not taken.
    log.warn({ err: error, kind: task.kind, size: task.text.length }, 'a text that could not be read')
    throw tooHeavy(error)
  }
}

/**
 * What reading a content yields, without holding up anybody else: large texts are read in threads with
 * a deadline and a limit of memory.
 * @throws Problem `too-heavy`
 */
export const readContent = (text: string): Promise<HtmlFacts> => read({ kind: 'html', text }, readHtml)

/** What a style sheet asks for and what is wrong in it, under the same limits. */
export const readStyle = (text: string): Promise<StyleFacts> => read({ kind: 'css', text }, styleFacts)

/**
 * What a script, a drawing or data refers to, under the same limits. Nobody waits for it to be read, so one that cannot be
 * is a file without references.
 */
export const readOther = (text: string, syntax: FileSyntax): Promise<FileFacts> =>
  read({ kind: 'file', text, syntax }, () => readFile(text, syntax)).catch((error: unknown) => {
    if (error instanceof Problem && error.code === 'too-heavy') return { references: [] }
    throw error
  })

/** What compiling a template may take: it is done again wherever a page is made. */
const compileMs = 500

/** Refuses a template that takes too long to compile; see `readContent`. */
export async function tryTemplate(text: string): Promise<void> {
  if ((await read<number>({ kind: 'template', text }, () => 0)) > compileMs) throw tooHeavy()
}

/** A plan for a new site, read under the same limits; see `readNewPlan`. */
export const readPlanText = (
  { text, format }: Parameters<typeof readNewPlan>[0],
  site: Parameters<typeof readNewPlan>[1],
): Promise<ReturnType<typeof readNewPlan>> =>
  read({ kind: 'plan', text, rest: [{ format }, site] }, () => readNewPlan({ text, format }, site))

async function lookThrough(task: WordsTask, signal: AbortSignal): Promise<ReadingAnswer> {
  try {
    return await pool().run(task, { signal: deadline(readingLimits.deadlineMs, signal) })
  } catch (error) {
    signal.throwIfAborted()
    throw tooHeavy(error)
  }
}

/**
 * Looks for words in texts, beside everybody else, under the same limits.
 * @param mostLines told of each text at the most
 * @throws Problem `too-heavy`, or what `signal` is aborted with
 */
export const findWords = async (
  texts: readonly TextOfKind[],
  wanted: Wanted,
  mostLines: number,
  signal: AbortSignal,
): Promise<FoundWords[]> =>
  (await lookThrough({ kind: 'find', texts, wanted, mostLines }, signal)) as FoundWords[]

/** Texts with something else in the place of words; see `findWords`. */
export const replaceWords = async (
  texts: readonly TextOfKind[],
  wanted: Wanted,
  by: string,
  signal: AbortSignal,
): Promise<string[]> => (await lookThrough({ kind: 'replace', texts, wanted, by }, signal)) as string[]

export async function endReaders(): Promise<void> {
  await globals.rubricantReaders?.destroy()
  globals.rubricantReaders = undefined
}
