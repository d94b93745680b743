import { callJob, config, type Job, log } from '#server/platform'
import { takeDelivery } from './run'

/** How often this process looks for deliveries that wait, or whose worker is gone. */
const lookEveryMs = 1_000

interface Worker {
  /** Begins what can be begun now; called whenever there may be something. */
  readonly look: () => void
  readonly stop: () => void
}

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantDelivering?: Worker }

/** This process's worker, which takes up deliveries from when it is asked for first. */
export function deliveryWorker(): Worker {
  return (globals.rubricantDelivering ??= start())
}

function start(): Worker {
  const running = new Set<Promise<void>>()
  let looking = false
  let stopped = false

  /** Fills this process's free places. The lease in `deliveries` decides who works on one. */
  async function fill(): Promise<void> {
    if (looking || stopped) return
    looking = true
    try {
      while (!stopped && running.size < config().deliveriesAtOnce) {
        const taken = await takeDelivery(null)
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
  const timer = setInterval(look, lookEveryMs)
  look()
  return {
    look,
    stop() {
      stopped = true
      clearInterval(timer)
      globals.rubricantDelivering = undefined
    },
  }
}

export const stopDelivering = (): void => globals.rubricantDelivering?.stop()

/** A call to look, made to whichever process hears it first: it ends at once. */
export const deliveryJob: Job = { name: 'deliveries', pollSeconds: 0.5, work: () => deliveryWorker().look() }

/** Calls for a delivery to be done soon, by any process. */
export async function callForDelivery(): Promise<void> {
  deliveryWorker().look()
  // This process may be busy: the others hear of it too.
  await callJob(deliveryJob.name)
}
