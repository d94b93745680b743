import { randomUUID } from 'node:crypto'
import { sentenceOf } from '#core/problems'
import { log, pool, transaction } from '#server/platform'
import { releaseHold, takeHold } from '../places/hold-rows'
import {
  type ClaimedDelivery,
  claimDelivery,
  findToHelp,
  hasNoAttemptsLeft,
  joinDelivery,
  releaseDelivery,
} from './delivery-rows'
import { DeliveryRun } from './delivery-run'

interface Taken {
  readonly id: string
  readonly ended: Promise<void>
}

/**
 * Takes up a delivery and does it from start to end, or from where an earlier worker left it.
 * Everything sent is recorded as it goes, so that nothing is sent twice after a cut.
 * @param deliveryId null takes the oldest that is free
 * @returns a promise for the end of what was taken up; null when there was nothing to take
 */
export async function takeDelivery(deliveryId: string | null): Promise<Taken | null> {
  const worker = randomUUID()
  const delivery = await claimDelivery(pool(), deliveryId, worker)
  return delivery && { id: delivery.id, ended: lead(delivery, worker) }
}

/**
 * Helps with a delivery that another process leads.
 * @param not those that this process works on, or could not help with
 */
export async function takePart(not: readonly string[]): Promise<Taken | null> {
  const delivery = await findToHelp(pool(), not)
  if (!delivery) return null
  const worker = randomUUID()
  await joinDelivery(pool(), delivery.id, worker)
  return { id: delivery.id, ended: new DeliveryRun(delivery, worker, false).help() }
}

/** One delivery to its end; false when another worker has it. For tests, and for doing one at a time. */
export async function runDelivery(deliveryId: string): Promise<boolean> {
  const taken = await takeDelivery(deliveryId)
  await taken?.ended
  return taken !== null
}

async function lead(delivery: ClaimedDelivery, worker: string): Promise<void> {
  const { id, destinationId } = delivery
  const run = new DeliveryRun(delivery, worker, true)
  if (hasNoAttemptsLeft(delivery)) {
    await run.end({
      state: 'failed',
      errorCode: 'given-up',
      errorMessage: sentenceOf('given-up', { times: delivery.attempts - 1 }),
    })
    return
  }
  // Another delivery or a comparison works in the same folder: this one waits for its end.
  if (!(await transaction((client) => takeHold(client, destinationId, id)))) {
    await releaseDelivery(pool(), id, worker)
    return
  }
  let isOver = true
  try {
    const end = await run.work()
    if (end) await run.end(end)
    else {
      isOver = false
      await run.leave()
    }
  } finally {
    // Whoever took it over holds the place under the same name.
    if (isOver)
      await releaseHold(pool(), destinationId, id).catch((error: unknown) =>
        log.warn({ err: error, deliveryId: id }, 'releasing a hold'),
      )
  }
}
