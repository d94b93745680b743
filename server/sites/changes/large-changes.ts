import path from 'node:path'
import { Piscina } from 'piscina'
import { log } from '#server/platform'
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
  if (globals.rubricantChangers) return globals.rubricantChangers
  const made = new Piscina<AskedFor, Answered>({
    filename: path.resolve('server/sites/changes/answer-change.worker.ts'),
    execArgv: ['--import', 'tsx'],
    // It works on the database that this thread works on, whatever the process was started with.
    env: { ...process.env } as Record<string, string>,
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 60_000,
    maxQueue: 50,
    resourceLimits: { maxOldGenerationSizeMb: memoryMb },
  })
  made.on('error', (error) => log.warn({ err: error }, 'the thread of large changes ended'))
  return (globals.rubricantChangers = made)
}

/** Does what a window asks for, here or beside. */
export const answerChange = (asked: AskedFor): Promise<Answered> =>
  asked.text.length <= mostHere ? answerHere(asked) : changers().run(asked)

export async function endChangers(): Promise<void> {
  await globals.rubricantChangers?.destroy()
  globals.rubricantChangers = undefined
}
