import PgBoss from 'pg-boss'
import { config } from './config'
import { orphanedDeliveries } from './database/deliveries'
import { pool } from './database/pool'
import { runDelivery } from './delivery'
import { log } from './log'
import { openSftp } from './transfer/sftp'

const deliveries = 'deliveries'
/** How often this process looks for deliveries whose worker is gone. */
const rescueEveryMs = 5_000

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantQueue?: Promise<{ boss: PgBoss; stop: () => Promise<void> }> }

/** Starts taking background work; any number of processes may do so at the same time. */
export function startQueue(): Promise<{ boss: PgBoss; stop: () => Promise<void> }> {
  return (globals.rubricantQueue ??= start())
}

async function start() {
  const boss = new PgBoss({ connectionString: config().databaseUrl, schema: 'queue', max: 4 })
  boss.on('error', (error) => log.error({ err: error }, 'queue'))
  await boss.start()
  await boss.createQueue(deliveries)
  await boss.work<{ deliveryId: string }>(
    deliveries,
    { pollingIntervalSeconds: 0.5, batchSize: 1 },
    async ([job]) => {
      await runDelivery(job!.data.deliveryId, openSftp)
    },
  )
  // The lease in `deliveries` decides who works; a job is only the call to look.
  const rescue = setInterval(() => {
    void orphanedDeliveries(pool())
      .then((rows) =>
        Promise.all(rows.map(({ id }) => boss.send(deliveries, { deliveryId: id }, { singletonKey: id }))),
      )
      .catch((error: unknown) => log.warn({ err: error }, 'looking for orphaned deliveries'))
  }, rescueEveryMs)
  return {
    boss,
    async stop() {
      clearInterval(rescue)
      globals.rubricantQueue = undefined
      await boss.stop({ graceful: true, timeout: 5_000 })
    },
  }
}

/** Calls for a delivery to be done soon, by any process. */
export async function enqueueDelivery(deliveryId: string): Promise<void> {
  const { boss } = await startQueue()
  await boss.send(deliveries, { deliveryId }, { retryLimit: 0 })
}
