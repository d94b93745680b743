import pLimit from 'p-limit'
import type { Piscina } from 'piscina'
import type { TextSpelling } from '#core/spelling'
import { deadline, log, threadsOf } from '#server/platform'
import type { SpelledText, SpellingAnswer, SpellingTask } from './spelling.worker'

/** How long some texts may be looked at, the reading of dictionaries included; tests, which run into it, wait less. */
export const spellingLimits = { deadlineMs: 30_000 }

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantSpellers?: Piscina<SpellingTask, SpellingAnswer> }

/** One thread: it keeps every dictionary that it reads, and nobody waits for it but who asked. */
const thread = () =>
  (globals.rubricantSpellers ??= threadsOf('server/sites/spelling/spelling.worker.ts', {
    threads: 1,
    memoryMb: 768,
    waiting: 200,
  }))

export async function endSpellers(): Promise<void> {
  await globals.rubricantSpellers?.destroy()
  globals.rubricantSpellers = undefined
}

/** One after the other, so that nobody's time is up while somebody else's texts are looked at. */
const inTurn = pLimit(1)

/**
 * Whoever hangs up is not waited for. The thread comes to the end of what it is at all the same: one that is stopped has to
 * read its dictionaries again, and people scroll past words faster than those are looked up.
 */
async function run(task: SpellingTask, signal: AbortSignal): Promise<SpellingAnswer> {
  signal.throwIfAborted()
  const answer = inTurn(() => {
    signal.throwIfAborted()
    return thread().run(task, { signal: deadline(spellingLimits.deadlineMs) })
  })
  let leave = () => {}
  const gone = new Promise<never>((_, reject) => {
    leave = () => reject(signal.reason as Error)
    signal.addEventListener('abort', leave, { once: true })
  })
  try {
    return await Promise.race([answer, gone])
  } finally {
    signal.removeEventListener('abort', leave)
  }
}

/**
 * What of texts dictionaries do not know; null of one that takes too long or too much.
 * @throws what `signal` is aborted with
 */
export async function lookAtTexts(
  texts: readonly SpelledText[],
  signal: AbortSignal,
): Promise<(TextSpelling | null)[]> {
  if (texts.length === 0) return []
  try {
    return [...((await run({ kind: 'look', texts }, signal)) as readonly TextSpelling[])]
  } catch (error) {
    signal.throwIfAborted()
    if (texts.length > 1) {
      // Whichever it is, the others are looked at.
      const found: (TextSpelling | null)[] = []
      for (const text of texts) found.push(...(await lookAtTexts([text], signal)))
      return found
    }
    log.warn({ err: error, size: texts[0]!.text.length }, 'a text whose spelling could not be looked at')
    return [null]
  }
}

/** What a word may be meant for, the nearest first; none where that is not known in time. */
export async function nearWords(
  word: string,
  language: string,
  signal: AbortSignal,
): Promise<readonly string[]> {
  try {
    return (await run({ kind: 'near', word, language }, signal)) as readonly string[]
  } catch (error) {
    signal.throwIfAborted()
    log.warn({ err: error }, 'words like one that could not be looked up')
    return []
  }
}
