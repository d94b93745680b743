import { randomUUID } from 'node:crypto'
import {
  compareDelivery,
  type ComparedFile,
  type Comparison,
  filesToSend,
  orderDelivery,
} from '#core/delivery'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import { hashOf } from './database/blobs'
import {
  type ClaimedDelivery,
  claimDelivery,
  endDelivery,
  listListed,
  listRecorded,
  recordRemoved,
  recordSent,
  recordThere,
  renewDelivery,
  replaceListing,
  type SentFile,
} from './database/deliveries'
import { type Destination, findDestination } from './database/destinations'
import { pool, transaction } from './database/pool'
import { loadSite, type StoredSite } from './database/sites'
import { announce, type DeliveryEvent } from './events'
import { log } from './log'
import { notFound } from './problem'
import { unseal } from './secrets'
import { noteAddresses } from './site-changes'
import { filesOfSite, type SiteFiles } from './site-build'
import { type OpenTransport, temporarySuffix, TransferError, type Transport } from './transfer/transport'

/** Files sent at the same time over one connection: enough to hide the way there and back. */
const sendConcurrency = 32
/** Files whose bytes are made at a time. */
const portion = 64
/** Files read back at the same time, to find out what an unrecorded one holds. */
const readConcurrency = 16
const progressEveryMs = 250

/** This process, in the leases it holds. */
const workerId = randomUUID()

type OpenDestination = Destination & { passwordSealed: Buffer }

async function open(destination: OpenDestination, openTransport: OpenTransport): Promise<Transport> {
  const { host, port, account, folder, hostKey } = destination
  return openTransport({ host, port, account, folder, hostKey, password: unseal(destination.passwordSealed) })
}

/** The site against what is known of a destination, without asking it. */
export async function compareKnown(stored: StoredSite, destinationId: string): Promise<Comparison> {
  const [{ manifest }, recorded, listed] = await Promise.all([
    filesOfSite(pool(), stored.site),
    listRecorded(pool(), destinationId),
    listListed(pool(), destinationId),
  ])
  return compareDelivery(manifest, recorded, listed)
}

/** Asks the destination what is there, reads back what no delivery recorded, and keeps the answer. */
export async function lookThere(
  destination: OpenDestination,
  stored: StoredSite,
  openTransport: OpenTransport,
): Promise<void> {
  const transport = await open(destination, openTransport)
  try {
    await refreshListing(transport, destination.id, await filesOfSite(pool(), stored.site))
  } finally {
    await transport.close()
  }
}

/** @param sweep removes parts of files that a cut delivery left under temporary names */
async function refreshListing(
  transport: Transport,
  destinationId: string,
  { manifest }: SiteFiles,
  sweep = false,
): Promise<Comparison> {
  const all = await transport.list()
  const listed = all.filter((file) => !file.path.endsWith(temporarySuffix))
  if (sweep) {
    const parts = all.filter((file) => file.path.endsWith(temporarySuffix))
    await eachOf(parts, sendConcurrency, ({ path }) => transport.remove(path))
  }
  await transaction((client) => replaceListing(client, destinationId, listed))
  const comparison = compareDelivery(manifest, await listRecorded(pool(), destinationId), listed)
  const unknown = comparison.files.filter((file) => file.state === 'unknown')
  if (unknown.length === 0) return comparison
  const times = new Map(listed.map((file) => [file.path, file.modifiedSeconds]))
  const there: SentFile[] = []
  await eachOf(unknown, readConcurrency, async ({ path }) => {
    const bytes = await transport.read(path)
    there.push({
      path,
      hash: hashOf(bytes),
      sizeBytes: bytes.length,
      modifiedSeconds: times.get(path) ?? null,
    })
  })
  await transaction((client) => recordThere(client, destinationId, there))
  return compareDelivery(manifest, await listRecorded(pool(), destinationId), listed)
}

/** Runs `work` for each item, a number of them at a time; stops taking new ones at the first failure. */
async function eachOf<T>(
  items: readonly T[],
  concurrency: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  const queue = items.values()
  let failure: { error: unknown } | null = null
  const lane = async () => {
    for (const item of queue) {
      if (failure) return
      try {
        await work(item)
      } catch (error) {
        failure ??= { error }
      }
    }
  }
  await Promise.all(Array.from({ length: concurrency }, lane))
  if (failure) throw (failure as { error: unknown }).error
}

class Cancelled extends Error {}
class TakenOver extends Error {}

/**
 * Does one delivery from start to end, or from where an earlier worker left it. Everything sent
 * is recorded as it goes, so that nothing is sent twice after a cut.
 * @returns false when another worker has it
 */
export async function runDelivery(deliveryId: string, openTransport: OpenTransport): Promise<boolean> {
  const delivery = await claimDelivery(pool(), deliveryId, workerId)
  if (!delivery) return false
  const run = new DeliveryRun(delivery)
  const end = await run.work(openTransport)
  if (!end) return false
  await endDelivery(pool(), deliveryId, workerId, { ...end, removedCount: run.removedCount })
  await run.tell(end.state)
  log.info(
    { deliveryId, state: end.state, code: end.errorCode, files: run.progress.fileCount },
    'delivery ended',
  )
  return true
}

class DeliveryRun {
  readonly progress = { fileTotal: 0, byteTotal: 0, fileCount: 0, byteCount: 0 }
  removedCount = 0
  #unrecorded: SentFile[] = []
  #stop: Error | null = null
  #flushing: Promise<void> = Promise.resolve()

  constructor(private readonly delivery: ClaimedDelivery) {}

  tell = (state: DeliveryEvent['state']) =>
    announce({
      siteId: this.delivery.siteId,
      kind: 'delivery',
      deliveryId: this.delivery.id,
      state,
      ...this.progress,
    })

  async work(openTransport: OpenTransport) {
    const timer = setInterval(
      () => void this.#flush().catch((error: Error) => (this.#stop ??= error)),
      progressEveryMs,
    )
    try {
      await this.#send(openTransport)
      await this.#flush()
      return { state: 'done' as const, errorCode: null, errorMessage: null }
    } catch (error) {
      clearInterval(timer)
      if (error instanceof TakenOver) return null
      await this.#flush().catch(() => {})
      if (error instanceof Cancelled)
        return { state: 'cancelled' as const, errorCode: null, errorMessage: null }
      if (!(error instanceof TransferError))
        log.error({ err: error, deliveryId: this.delivery.id }, 'delivery failed')
      const known =
        error instanceof TransferError || error instanceof Error ? error : new Error(String(error))
      const code = error instanceof TransferError ? error.code : 'other'
      return { state: 'failed' as const, errorCode: code, errorMessage: known.message }
    } finally {
      clearInterval(timer)
    }
  }

  async #send(openTransport: OpenTransport): Promise<void> {
    const { siteId, accountId, destinationId, removeLeftovers } = this.delivery
    const [stored, destination] = await Promise.all([
      loadSite(pool(), siteId, accountId),
      findDestination(pool(), destinationId, siteId, accountId),
    ])
    if (!stored || !destination) throw notFound()
    const files = await filesOfSite(pool(), stored.site)
    const transport = await open(destination, openTransport)
    try {
      const comparison = await refreshListing(transport, destinationId, files, true)
      const steps = orderDelivery(filesToSend(comparison))
      // A worker that takes over counts on from what the one before it had recorded.
      this.progress.fileCount = this.delivery.fileCount
      this.progress.byteCount = this.delivery.byteCount
      this.progress.fileTotal = this.delivery.fileCount + steps.flat().length
      this.progress.byteTotal =
        this.delivery.byteCount + steps.flat().reduce((sum, file) => sum + file.sizeBytes, 0)
      await this.#flush()
      for (const step of steps)
        for (let at = 0; at < step.length; at += portion)
          await this.#sendPortion(transport, files, step.slice(at, at + portion))
      if (removeLeftovers) await this.#remove(transport, comparison)
      const { pages } = namesOf(stored.site)
      const real = realPlaces(treeOf(stored.site))
      await noteAddresses(
        siteId,
        accountId,
        Object.fromEntries(real.map(({ page }) => [page.id, pages.get(page.id)!.path])),
      )
    } finally {
      await transport.close()
    }
  }

  async #sendPortion(transport: Transport, files: SiteFiles, step: readonly ComparedFile[]): Promise<void> {
    const bytes = await files.bytesOf(step.map((file) => file.path))
    await eachOf(step, sendConcurrency, async ({ path, hash, sizeBytes }) => {
      if (this.#stop) throw this.#stop
      const there = await transport.put(path, bytes.get(path)!)
      this.progress.fileCount += 1
      this.progress.byteCount += sizeBytes
      this.#unrecorded.push({
        path,
        hash,
        sizeBytes: there.sizeBytes,
        modifiedSeconds: there.modifiedSeconds,
      })
    })
  }

  /** Removes what earlier deliveries put there and the site no longer has; strays are never touched. */
  async #remove(transport: Transport, comparison: Comparison): Promise<void> {
    const paths = comparison.leftovers.filter((file) => file.state === 'to remove').map((file) => file.path)
    await eachOf(paths, sendConcurrency, async (path) => {
      if (this.#stop) throw this.#stop
      await transport.remove(path)
      this.removedCount += 1
    })
    await transaction((client) => recordRemoved(client, this.delivery.destinationId, paths))
  }

  /** Writes progress and record, one writer at a time; learns of a cancel or of a worker that took over. */
  #flush(): Promise<void> {
    this.#flushing = this.#flushing
      .catch(() => {})
      .then(async () => {
        const files = this.#unrecorded
        this.#unrecorded = []
        const { id, destinationId } = this.delivery
        try {
          const lease = await transaction(async (client) => {
            await recordSent(client, id, destinationId, files)
            return renewDelivery(client, id, workerId, this.progress)
          })
          if (!lease) this.#stop ??= new TakenOver()
          else if (lease.cancelAsked) this.#stop ??= new Cancelled()
        } catch (error) {
          // What was sent stays to be recorded with the next try.
          this.#unrecorded = [...files, ...this.#unrecorded]
          throw error
        }
        await this.tell('running')
      })
    return this.#flushing
  }
}
