import { callJob, config, type Job, log } from '#server/platform'
import { takeDelivery, takePart } from './run'

/** How often this process looks for deliveries that wait, or whose worker is gone. */
const lookEveryMs = 1_000
/** After having worked on a delivery, a process does not offer its help with it for so long. */
const helpAgainMs = 15_000

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
  /** Deliveries that this process works on, or has done for what it could. */
  const known = new Set<string>()
  let looking = false
  let stopped = false

  /** Fills this process's free places. The lease in `deliveries` decides who works on one. */
  async function fill(): Promise<void> {
    if (looking || stopped) return
    looking = true
    try {
      while (!stopped && running.size < config().deliveriesAtOnce) {
        // What nobody works on comes first; then what others would be longer at alone.
        const taken = (await takeDelivery(null)) ?? (await takePart([...known]))
        if (!taken) break
        known.add(taken.id)
        const work = taken.ended
          .catch((error: unknown) => log.error({ err: error, deliveryId: taken.id }, 'delivery'))
          .finally(() => {
            running.delete(work)
            forgetSoon(taken.id)
          })
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
  /** What could not be helped with is not tried again and again. */
  const forgetSoon = (id: string) => setTimeout(() => known.delete(id), helpAgainMs).unref()
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
