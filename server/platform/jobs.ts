import PgBoss from 'pg-boss'
import { config } from './config'
import { log } from './log'

/** Background work that any process may be called to do. */
export interface Job {
  readonly name: string
  readonly work: () => Promise<void> | void
  /** How often a process asks whether it is called. */
  readonly pollSeconds: number
  /** When it is called by itself, as a line of cron; otherwise only by `callJob`. */
  readonly schedule?: string
}

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantJobs?: Promise<PgBoss> }

/** Begins to take calls for these jobs; any number of processes may do so at the same time. */
export async function startJobs(jobs: readonly Job[]): Promise<void> {
  globals.rubricantJobs ??= start(jobs).catch((error: unknown) => {
    globals.rubricantJobs = undefined
    throw error
  })
  await globals.rubricantJobs
}

async function start(jobs: readonly Job[]): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: config().databaseUrl, schema: 'queue', max: 4 })
  boss.on('error', (error) => log.error({ err: error }, 'queue'))
  await boss.start()
  for (const { name, work, pollSeconds, schedule } of jobs) {
    await boss.createQueue(name)
    await boss.work(name, { pollingIntervalSeconds: pollSeconds, batchSize: 10 }, async () => work())
    if (schedule) await boss.schedule(name, schedule)
  }
  return boss
}

/** Calls for a job to be done soon, by whichever process hears it first. */
export async function callJob(name: string): Promise<void> {
  const boss = await globals.rubricantJobs
  // Where nobody can be called, whoever does the job looks for its work by itself.
  await boss
    ?.send(name, {}, { retryLimit: 0 })
    .catch((error: unknown) => log.warn({ err: error, name }, 'queue'))
}

/** Takes no more calls; those under way get five seconds. */
export async function stopJobs(): Promise<void> {
  const boss = await globals.rubricantJobs?.catch(() => null)
  globals.rubricantJobs = undefined
  await boss?.stop({ graceful: true, timeout: 5_000 })
}
