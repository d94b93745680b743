import { randomUUID } from 'node:crypto'
import { type ComparedFile, type Comparison, filesToSend, orderDelivery } from '#core/delivery'
import { type Names, namesOf } from '#core/naming'
import { filesOfSite, loadSite, noteDelivered, recordAddresses, type SiteFiles } from '#server/sites'
import {
  type ClaimedDelivery,
  claimDelivery,
  endDelivery,
  goOnLater,
  hasNoAttemptsLeft,
  noteSentRevision,
  recordRemoved,
  recordSent,
  releaseDelivery,
  renewDelivery,
  type SentFile,
} from './delivery-rows'
import { findDestination } from './destination-rows'
import { releaseHold, renewHold, takeHold } from './hold-rows'
import { Problem, sentenceOf } from '#core/problems'
import { announce, type DeliveryEvent, eachOf, log, pool, portionsOf, transaction } from '#server/platform'
import { refreshListing } from './compare'
import { openDestination } from './open-destination'
import type { Transport } from './transfer/transport'

/** Files sent at the same time over one connection: enough to hide the way there and back. */
const sendConcurrency = 64
const progressEveryMs = 250
/** How often the site is told which of its pages are out in the world, while they are being sent. */
const noteEveryMs = 2_000
/** Without a renewed lease for so long somebody else may have taken over: nothing more is sent. */
const leaseMs = 9_000

/** This process, in the leases it holds. */
const workerId = randomUUID()

/** What ends a delivery and is over in a while. */
const cutCodes: ReadonlySet<string> = new Set(['unreachable', 'connection-lost', 'timeout'])

class Cancelled extends Error {}
class TakenOver extends Error {}

/**
 * Takes up a delivery and does it from start to end, or from where an earlier worker left it.
 * Everything sent is recorded as it goes, so that nothing is sent twice after a cut.
 * @param deliveryId null takes the oldest that is free
 * @returns a promise for the end of what was taken up; null when there was nothing to take
 */
export async function takeDelivery(
  deliveryId: string | null,
): Promise<{ readonly id: string; readonly ended: Promise<void> } | null> {
  const delivery = await claimDelivery(pool(), deliveryId, workerId)
  return delivery && { id: delivery.id, ended: work(delivery) }
}

/** One delivery to its end; false when another worker has it. For tests, and for doing one at a time. */
export async function runDelivery(deliveryId: string): Promise<boolean> {
  const taken = await takeDelivery(deliveryId)
  await taken?.ended
  return taken !== null
}

async function work(delivery: ClaimedDelivery): Promise<void> {
  const { id, destinationId } = delivery
  const run = new DeliveryRun(delivery)
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
    await releaseDelivery(pool(), id, workerId)
    return
  }
  try {
    const end = await run.work()
    if (end) await run.end(end)
  } finally {
    await releaseHold(pool(), destinationId, id).catch((error: unknown) =>
      log.warn({ err: error, deliveryId: id }, 'releasing a hold'),
    )
  }
}

interface End {
  readonly state: 'done' | 'failed' | 'cancelled'
  readonly errorCode: string | null
  readonly errorMessage: string | null
}

class DeliveryRun {
  readonly #progress = { fileTotal: 0, byteTotal: 0, fileCount: 0, byteCount: 0 }
  #removedCount = 0
  #unrecorded: SentFile[] = []
  /** Addresses of pages that are being sent, to be noted before anything else is. */
  #goingOut: { pageId: string; path: string }[] = []
  /** Whether pages have gone out that the site has not been told of. */
  #unnoted = false
  #notedAt = Date.now()
  #renewedAt = Date.now()
  #flushing: Promise<void> = Promise.resolve()
  readonly #stop = new AbortController()

  constructor(private readonly delivery: ClaimedDelivery) {}

  #tell = (state: DeliveryEvent['state']) =>
    announce({
      siteId: this.delivery.siteId,
      kind: 'delivery',
      deliveryId: this.delivery.id,
      state,
      ...this.#progress,
    })

  async end(end: End): Promise<void> {
    const { id } = this.delivery
    const { errorCode: code, errorMessage: message } = end
    if (code !== null && message !== null && cutCodes.has(code)) {
      if (await goOnLater(pool(), this.delivery, workerId, { code, message })) {
        log.info({ deliveryId: id, code, ...this.#progress }, 'delivery goes on later')
        await this.#tell('waiting')
        return
      }
    }
    await endDelivery(pool(), id, workerId, { ...end, removedCount: this.#removedCount })
    log.info({ deliveryId: id, state: end.state, code: end.errorCode, ...this.#progress }, 'delivery ended')
    await this.#tell(end.state)
  }

  async work(): Promise<End | null> {
    const timer = setInterval(() => void this.#beat(), progressEveryMs)
    let end: End | null
    try {
      await this.#send()
      end = { state: 'done', errorCode: null, errorMessage: null }
    } catch (error) {
      end = this.#endOf(error)
    } finally {
      clearInterval(timer)
    }
    if (end === null) return null
    try {
      await this.#flush()
    } catch (error) {
      if (error instanceof TakenOver) return null
      // Not recorded means read back by the next delivery, not lost.
      log.error({ err: error, deliveryId: this.delivery.id }, 'recording the end of a delivery')
    }
    await this.#note().catch((error: unknown) =>
      log.error({ err: error, deliveryId: this.delivery.id }, 'noting addresses'),
    )
    return end
  }

  #endOf(error: unknown): End | null {
    // Whatever the stop made fail, the stop is the reason.
    const reason: unknown = this.#stop.signal.aborted ? this.#stop.signal.reason : error
    if (reason instanceof TakenOver) return null
    if (reason instanceof Cancelled) return { state: 'cancelled', errorCode: null, errorMessage: null }
    if (reason instanceof Problem)
      return { state: 'failed', errorCode: reason.code, errorMessage: reason.message }
    log.error({ err: reason, deliveryId: this.delivery.id }, 'delivery failed')
    return {
      state: 'failed',
      errorCode: 'failed',
      errorMessage: sentenceOf('failed', undefined),
    }
  }

  async #send(): Promise<void> {
    const { id, siteId, accountId, destinationId, removeLeftovers } = this.delivery
    const [stored, destination] = await Promise.all([
      loadSite(pool(), siteId, accountId),
      findDestination(pool(), destinationId, siteId, accountId),
    ])
    if (!stored || !destination) throw new Problem('gone', { what: 'The site or the destination' })
    await noteSentRevision(pool(), id, stored.revision)
    // What a worker before this one recorded and had no time to tell of.
    await noteDelivered(siteId, accountId)
    const { signal } = this.#stop
    const files = await filesOfSite(pool(), stored.site, signal)
    const names = namesOf(stored.site)
    const transport = await openDestination(destination, signal)
    try {
      const comparison = await refreshListing(transport, destinationId, files, stored.site)
      const steps = orderDelivery(filesToSend(comparison))
      // A worker that takes over counts on from what the one before it had recorded.
      this.#progress.fileCount = this.delivery.fileCount
      this.#progress.byteCount = this.delivery.byteCount
      this.#progress.fileTotal = this.delivery.fileCount + steps.flat().length
      this.#progress.byteTotal =
        this.delivery.byteCount + steps.flat().reduce((sum, file) => sum + file.sizeBytes, 0)
      await this.#flush()
      for (const step of steps)
        for (const portion of portionsOf(step)) await this.#sendPortion(transport, files, portion, names)
      if (removeLeftovers) await this.#remove(transport, comparison)
    } finally {
      await transport.close()
    }
  }

  async #sendPortion(
    transport: Transport,
    files: SiteFiles,
    portion: readonly ComparedFile[],
    names: Names,
  ): Promise<void> {
    const bytes = await files.bytesOf(portion.map((file) => file.path))
    await eachOf(portion, sendConcurrency, async ({ path, hash, sizeBytes }) => {
      this.#stop.signal.throwIfAborted()
      const target = names.byPath.get(path)
      const pageId = target?.kind === 'page' ? target.id : null
      // From here on it may be out, whether the host's word of it arrives or not.
      if (pageId !== null) this.#goingOut.push({ pageId, path })
      const pieces = (await files.piecesOf(path)) ?? [bytes.get(path)!]
      const there = await transport.put(path, pieces, () => {
        this.#progress.fileCount += 1
        this.#progress.byteCount += sizeBytes
      })
      this.#unrecorded.push({ ...there, path, hash, pageId })
    })
  }

  /** Removes what earlier deliveries put there and the site no longer has; strays are never touched. */
  async #remove(transport: Transport, comparison: Comparison): Promise<void> {
    const paths = comparison.leftovers.filter((file) => file.state === 'to remove').map((file) => file.path)
    const removed: string[] = []
    try {
      await eachOf(paths, sendConcurrency, async (path) => {
        this.#stop.signal.throwIfAborted()
        await transport.remove(path)
        removed.push(path)
        this.#removedCount += 1
      })
    } finally {
      await transaction((client) => recordRemoved(client, this.delivery.destinationId, removed))
    }
  }

  /** What the timer does: never fails, and stops the run when the lease may be another's. */
  async #beat(): Promise<void> {
    try {
      await this.#flush()
      if (this.#unnoted && Date.now() - this.#notedAt > noteEveryMs) await this.#note()
    } catch (error) {
      if (error instanceof TakenOver) this.#stop.abort(error)
      // A database that is away for a moment is waited for; the lease says for how long.
      else if (Date.now() - this.#renewedAt > leaseMs) this.#stop.abort(new TakenOver())
      else log.warn({ err: error, deliveryId: this.delivery.id }, 'recording a delivery')
    }
  }

  async #note(): Promise<void> {
    if (!this.#unnoted) return
    this.#unnoted = false
    this.#notedAt = Date.now()
    await noteDelivered(this.delivery.siteId, this.delivery.accountId)
  }

  /** Writes progress and record, one writer at a time; learns of a cancel or of a worker that took over. */
  #flush(): Promise<void> {
    this.#flushing = this.#flushing
      .catch(() => {})
      .then(async () => {
        const files = this.#unrecorded
        const addresses = this.#goingOut
        this.#unrecorded = []
        this.#goingOut = []
        const { id, destinationId } = this.delivery
        try {
          const begun = Date.now()
          const lease = await transaction(async (client) => {
            const renewed = await renewDelivery(client, id, workerId, this.#progress)
            // Without the lease the record is another's to write; what was sent is read back by it.
            if (!renewed || !(await renewHold(client, destinationId, id))) return null
            await recordAddresses(client, destinationId, addresses)
            await recordSent(client, id, destinationId, files)
            return renewed
          })
          if (!lease) throw new TakenOver()
          this.#unnoted ||= addresses.length > 0
          this.#renewedAt = begun
          if (lease.cancelAsked && !this.#stop.signal.aborted) this.#stop.abort(new Cancelled())
        } catch (error) {
          // What was sent stays to be recorded with the next try.
          this.#unrecorded = [...files, ...this.#unrecorded]
          this.#goingOut = [...addresses, ...this.#goingOut]
          throw error
        }
        await this.#tell('running').catch(() => {})
      })
    return this.#flushing
  }
}
