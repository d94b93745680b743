import PgBoss from 'pg-boss'
import { config } from './config'
import { takeDelivery } from './delivery-run'
import { housekeeping } from './housekeeping'
import { log } from './log'
import { openSftp } from './transfer/sftp'

const deliveries = 'deliveries'
const cleaning = 'housekeeping'
/** How often this process looks for deliveries that wait, or whose worker is gone. */
const lookEveryMs = 1_000

interface Queue {
  readonly boss: PgBoss
  /** Begins what can be begun now; called whenever there may be something. */
  readonly look: () => void
  readonly stop: () => Promise<void>
}

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantQueue?: Promise<Queue> }

/** Starts taking background work; any number of processes may do so at the same time. */
export function startQueue(): Promise<Queue> {
  globals.rubricantQueue ??= start().catch((error: unknown) => {
    globals.rubricantQueue = undefined
    throw error
  })
  return globals.rubricantQueue
}

async function start(): Promise<Queue> {
  const boss = new PgBoss({ connectionString: config().databaseUrl, schema: 'queue', max: 4 })
  boss.on('error', (error) => log.error({ err: error }, 'queue'))
  await boss.start()
  const running = new Set<Promise<void>>()
  let looking = false
  let stopped = false

  /** Fills this process's free places. The lease in `deliveries` decides who works on one. */
  async function fill(): Promise<void> {
    if (looking || stopped) return
    looking = true
    try {
      while (!stopped && running.size < config().deliveriesAtOnce) {
        const taken = await takeDelivery(null, openSftp)
        if (!taken) break
        const work = taken.ended
          .catch((error: unknown) => log.error({ err: error, deliveryId: taken.id }, 'delivery'))
          .finally(() => void running.delete(work))
        running.add(work)
        // One that was put back, since its place is taken, is not taken up again at once.
        await Promise.race([work, new Promise((resolve) => setTimeout(resolve, 50))])
      }
    } catch (error) {
      log.warn({ err: error }, 'looking for deliveries')
    } finally {
      looking = false
    }
  }
  const look = () => void fill()

  // A job is only a call to look, made to whichever process hears it first: it ends at once.
  await boss.createQueue(deliveries)
  await boss.work(deliveries, { pollingIntervalSeconds: 0.5, batchSize: 10 }, async () => look())
  await boss.createQueue(cleaning)
  await boss.work(cleaning, { pollingIntervalSeconds: 30 }, () => housekeeping())
  await boss.schedule(cleaning, '17 * * * *')
  const timer = setInterval(look, lookEveryMs)
  look()
  return {
    boss,
    look,
    async stop() {
      stopped = true
      clearInterval(timer)
      globals.rubricantQueue = undefined
      await boss.stop({ graceful: true, timeout: 5_000 })
    },
  }
}

/** Calls for a delivery to be done soon, by any process. */
export async function callForDelivery(): Promise<void> {
  const { boss, look } = await startQueue()
  look()
  // This process may be busy: the others hear of it too. Where that fails, they look by themselves.
  await boss
    .send(deliveries, {}, { retryLimit: 0 })
    .catch((error: unknown) => log.warn({ err: error }, 'queue'))
}
