import path from 'node:path'
import { Piscina } from 'piscina'
import { log } from './log'

/** Where modules of threads stand that were built, each in one file; where that is not said, they are run as sources. */
const built = process.env.RUBRICANT_THREADS

interface ThreadLimits {
  readonly threads: number
  readonly memoryMb: number
  /**
   * For what was made a moment ago, beside that. More makes a thread that makes much and drops it faster; 48 where nothing is
   * said (V8), which is as much as half of what some threads hold.
   */
  readonly youngMb?: number
  /** How many may wait for one. */
  readonly waiting: number
}

/**
 * Threads that run a module of ours, started when they are first asked for and ended when they have had
 * nothing to do for a minute.
 * @param file the module, from the top of the project
 */
export const threadsOf = <Task, Answer>(file: string, limits: ThreadLimits): Piscina<Task, Answer> =>
  threadsFrom(built, file, limits)

/** @param folder where what was built stands; sources are run without one */
export function threadsFrom<Task, Answer>(
  folder: string | undefined,
  file: string,
  { threads, memoryMb, youngMb, waiting }: ThreadLimits,
): Piscina<Task, Answer> {
  const made = new Piscina<Task, Answer>({
    filename: folder ? path.join(folder, `${path.basename(file, '.ts')}.js`) : path.resolve(file),
    execArgv: folder ? [] : ['--import', path.resolve('server/platform/thread-start.mjs')],
    // They work on what this thread works on, whatever the process was started with.
    env: { ...process.env } as Record<string, string>,
    maxThreads: threads,
    minThreads: 0,
    idleTimeout: 60_000,
    maxQueue: waiting,
    resourceLimits: {
      maxOldGenerationSizeMb: memoryMb,
      ...(youngMb !== undefined && { maxYoungGenerationSizeMb: youngMb }),
      stackSizeMb: 4,
    },
  })
  // A thread that ends itself tells of it here too, after what it was at was refused.
  made.on('error', (error) => log.warn({ err: error, file }, 'a thread ended'))
  return made
}
