import type { Piscina } from 'piscina'
import { threadsOf } from '#server/platform'
import { answerHere, type Answered, type AskedFor } from './answer-change'

/**
 * Letters of a request that is answered in this thread: some thousand pages. What is larger is read,
 * checked, made and written in another one, and nobody else waits for it.
 */
const mostHere = 600_000
const memoryMb = 1_500

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantChangers?: Piscina<AskedFor, Answered> }

/** The thread that makes large changes, started when it is needed first: one at a time, since each is heavy. */
function changers(): Piscina<AskedFor, Answered> {
  return (globals.rubricantChangers ??= threadsOf('server/sites/changes/answer-change.worker.ts', {
    threads: 1,
    memoryMb,
    waiting: 50,
  }))
}

/** Does what a window asks for, here or beside. */
export const answerChange = (asked: AskedFor): Promise<Answered> =>
  asked.text.length <= mostHere ? answerHere(asked) : changers().run(asked)

export async function endChangers(): Promise<void> {
  await globals.rubricantChangers?.destroy()
  globals.rubricantChangers = undefined
}
