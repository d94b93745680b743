import { setTimeout as pause } from 'node:timers/promises'
import { Problem, sentenceOf } from '#core/problems'
import { bytesFrom, getBlobs, type Pieces, portionBytes, PostgresContents } from '#server/contents'
import {
  announce,
  databaseError,
  type DeliveryEvent,
  log,
  pool,
  portionsOf,
  transaction,
} from '#server/platform'
import { noteDelivered, recordAddresses } from '#server/sites'
import { findDestination } from '../places/destination-rows'
import { releaseHold, renewHold } from '../places/hold-rows'
import { recordRemoved, type SentFile } from '../places/known-rows'
import { atDestination } from '../places/open-destination'
import type { Transport } from '../transfer/transport'
import {
  type ClaimedDelivery,
  type DeliveryStand,
  endDelivery,
  goOnLater,
  hasOtherWorkers,
  joinDelivery,
  leaveDelivery,
  notePaused,
  notePlan,
  renewDelivery,
} from './delivery-rows'
import { isOpen, type Item, noteRemoved, putBackItems, recordSent, settleItems, takeItems } from './item-rows'
import { planDelivery } from './plan'

/** Files sent at the same time over one connection: enough to hide the way there and back. */
const sendConcurrency = 64
/**
 * Bytes of files sent at the same time, and what a large one counts for: on a slow line files end one after the other, so
 * that a cut undoes little of what was sent, and only so much is held in memory.
 */
const mostBytesUnderWay = 8_000_000
const largeBytes = 2_000_000
/** Files taken at a time: some ahead of those on their way, and not so many that others have nothing to help with. */
const takeFiles = 2 * sendConcurrency
const progressEveryMs = 250
/** How long a worker waits for what others have on their way, before it looks again. */
const waitForOthersMs = 100
/** How often the site is told which of its pages are out in the world, while they are being sent. */
const noteEveryMs = 2_000
/** Without renewing for so long somebody else may have taken over what is under way: nothing more is sent. */
const partMs = 4_500

/** What ends a delivery and is over in a while. */
const cutCodes: ReadonlySet<string> = new Set(['unreachable', 'connection-lost', 'timeout', 'unavailable'])

class Cancelled extends Error {}
class Paused extends Error {}
class TakenOver extends Error {}

type End =
  | {
      readonly state: 'done' | 'failed' | 'cancelled'
      readonly errorCode: string | null
      readonly errorMessage: string | null
    }
  | { readonly state: 'paused' }

/** A file to send, with its content at hand. */
interface Loaded {
  readonly item: Item
  readonly pieces: Pieces
  /** Bytes that it counts for while it is under way. */
  readonly weight: number
}

/** One worker's part in a delivery: leading it, or helping with it. */
export class DeliveryRun {
  #stand: DeliveryStand | null = null
  #unrecorded: SentFile[] = []
  #removed: string[] = []
  /** Addresses of pages that are being sent, to be noted before anything else is. */
  #goingOut: { pageId: string; path: string }[] = []
  /** Whether pages have gone out that the site has not been told of. */
  #unnoted = false
  #notedAt = Date.now()
  #renewedAt = Date.now()
  #flushing: Promise<void> = Promise.resolve()
  #underWay = 0
  #bytesUnderWay = 0
  /** Bytes that have gone out of files that are not complete yet. */
  #bytesOut = 0
  /** Called when something that was under way has ended. */
  #onRoom: (() => void) | null = null
  /** Called when the last that is under way ends. */
  #onIdle: (() => void) | null = null
  /** What went wrong first: nothing more is begun. */
  #failure: { readonly error: unknown } | null = null
  readonly #stop = new AbortController()

  constructor(
    private readonly delivery: ClaimedDelivery,
    private readonly worker: string,
    private readonly leads: boolean,
  ) {}

  #tell = (state: DeliveryEvent['state']) => {
    const { fileTotal, byteTotal, fileCount, byteCount } = this.#stand ?? this.delivery
    return announce({
      siteId: this.delivery.siteId,
      kind: 'delivery',
      deliveryId: this.delivery.id,
      ...{ state, fileTotal, byteTotal, fileCount, byteCount },
    })
  }

  async end(end: End): Promise<void> {
    const { id, siteId, accountId } = this.delivery
    await this.leave()
    if (end.state === 'paused') {
      await notePaused(pool(), id, this.worker)
      log.info({ deliveryId: id }, 'delivery paused')
      return this.#tell('waiting')
    }
    const { errorCode: code, errorMessage: message } = end
    if (code !== null && message !== null && cutCodes.has(code)) {
      if (await goOnLater(pool(), this.delivery, this.worker, { code, message })) {
        log.info({ deliveryId: id, code }, 'delivery goes on later')
        return this.#tell('waiting')
      }
    }
    await transaction(async (client) => {
      await settleItems(client, id)
      await endDelivery(client, id, this.worker, end)
      // In one step with the end: whoever hears of it finds the place free.
      await releaseHold(client, this.delivery.destinationId, id)
    })
    log.info({ deliveryId: id, siteId, accountId, state: end.state, code }, 'delivery ended')
    await this.#tell(end.state)
  }

  /** Leads the delivery: finds out what there is to do, does it with whoever helps, and says how it ended. */
  async work(): Promise<End | null> {
    return this.#beating(async () => {
      await joinDelivery(pool(), this.delivery.id, this.worker)
      await this.#alone()
      await this.#atPlace(async (transport) => {
        const plan = await planDelivery(this.delivery, transport, this.#stop.signal)
        if (!(await notePlan(pool(), this.delivery.id, this.worker, plan))) throw new TakenOver()
        await this.#sendAll(transport)
      })
    })
  }

  /** Does what it can of a delivery that another leads; what it cannot is left to those who can. */
  async help(): Promise<void> {
    const { id } = this.delivery
    log.info({ deliveryId: id }, 'helping with a delivery')
    const end = await this.#beating(() => this.#atPlace((transport) => this.#sendAll(transport)))
    if (end && end.state === 'failed')
      log.info({ deliveryId: id, code: end.errorCode }, 'no help with a delivery')
    await this.leave()
  }

  /** Says that this worker has no part in the delivery any more. */
  async leave(): Promise<void> {
    await putBackItems(pool(), this.delivery.id, this.worker)
    await leaveDelivery(pool(), this.delivery.id, this.worker)
  }

  async #beating(work: () => Promise<void>): Promise<End | null> {
    const timer = setInterval(() => void this.#beat(), progressEveryMs)
    let end: End | null
    try {
      await work()
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
    // A database that goes away and comes back is a cut like any other.
    const reason = databaseError(this.#stop.signal.aborted ? this.#stop.signal.reason : error)
    if (reason instanceof TakenOver) return null
    if (reason instanceof Paused) return { state: 'paused' }
    if (reason instanceof Cancelled) return { state: 'cancelled', errorCode: null, errorMessage: null }
    if (reason instanceof Problem)
      return { state: 'failed', errorCode: reason.code, errorMessage: reason.message }
    log.error({ err: reason, deliveryId: this.delivery.id }, 'delivery failed')
    return { state: 'failed', errorCode: 'failed', errorMessage: sentenceOf('failed', undefined) }
  }

  /** Waits until those who helped whoever led it before have heard of it, or are gone: what is swept is nobody's. */
  async #alone(): Promise<void> {
    while (await hasOtherWorkers(pool(), this.delivery.id, this.worker)) {
      await pause(waitForOthersMs, null, { signal: this.#stop.signal })
    }
  }

  async #atPlace(work: (transport: Transport) => Promise<void>): Promise<void> {
    const { siteId, accountId, destinationId } = this.delivery
    const destination = await findDestination(pool(), destinationId, siteId, accountId)
    if (!destination) throw new Problem('gone', { what: 'The site or the destination' })
    // What a worker before this one recorded and had no time to tell of.
    if (this.leads) await noteDelivered(siteId, accountId)
    await atDestination(destination, this.#stop.signal, work)
  }

  /** Sends, with a number of files on their way at any time, until nothing is left to take. */
  async #sendAll(transport: Transport): Promise<void> {
    const supply = this.#supply()
    const carry = async () => {
      while (!this.#failure) {
        const next = await supply.next()
        if (next.done) return
        this.#underWay += 1
        try {
          await this.#do(transport, next.value)
        } catch (error) {
          this.#failure ??= { error }
        } finally {
          this.#underWay -= 1
          this.#bytesUnderWay -= next.value.weight
          this.#onRoom?.()
          if (this.#underWay === 0) this.#onIdle?.()
        }
      }
    }
    const carried = await Promise.allSettled(Array.from({ length: sendConcurrency }, carry))
    for (const one of carried) if (one.status === 'rejected') throw one.reason
    if (this.#failure) throw this.#failure.error
  }

  /** What is to be done, a step after the other: the next is at hand when the one before it is recorded as complete. */
  async *#supply(): AsyncGenerator<Loaded> {
    const { id } = this.delivery
    let waited = false
    while (!this.#failure) {
      this.#stop.signal.throwIfAborted()
      const items = await takeItems(pool(), id, this.worker, takeFiles)
      for (const portion of portionsOf(items)) {
        const small = portion.filter(({ hash, sizeBytes }) => hash !== null && sizeBytes <= portionBytes)
        const bytes = await getBlobs(
          pool(),
          small.map(({ hash }) => hash!),
        )
        for (const item of portion) {
          const weight = item.hash === null ? 0 : Math.min(item.sizeBytes, largeBytes)
          await this.#room(weight)
          yield { item, pieces: await this.#piecesOf(item, bytes), weight }
        }
      }
      if (items.length > 0) {
        waited = false
        continue
      }
      if (this.#underWay > 0) {
        await new Promise<void>((resolve) => (this.#onIdle = resolve))
        continue
      }
      await this.#flush()
      if (!(await isOpen(pool(), id))) return
      // Where the next step is at hand now, it is taken at once; else others have the last of this one on their way.
      if (waited) await pause(waitForOthersMs, null, { signal: this.#stop.signal })
      waited = true
    }
  }

  /** Waits until so many bytes more may be under way, and counts them in. */
  async #room(bytes: number): Promise<void> {
    while (this.#bytesUnderWay > 0 && this.#bytesUnderWay + bytes > mostBytesUnderWay)
      await new Promise<void>((resolve) => (this.#onRoom = resolve))
    this.#bytesUnderWay += bytes
  }

  async #piecesOf({ hash, sizeBytes }: Item, bytes: ReadonlyMap<string, Buffer>): Promise<Pieces> {
    if (hash === null) return []
    if (sizeBytes <= portionBytes) return [bytesFrom(bytes, hash)]
    const content = await new PostgresContents(pool()).get(hash)
    if (!content) throw new Problem('content-missing')
    return content.pieces
  }

  async #do(transport: Transport, { item: { path, hash, pageId }, pieces }: Loaded): Promise<void> {
    this.#stop.signal.throwIfAborted()
    if (hash === null) {
      await transport.remove(path)
      this.#removed.push(path)
      return
    }
    // From here on it may be out, whether the host's word of it arrives or not.
    if (pageId !== null) this.#goingOut.push({ pageId, path })
    let out = 0
    try {
      const there = await transport.put(path, pieces, (bytes) => {
        out += bytes
        this.#bytesOut += bytes
      })
      this.#unrecorded.push({ ...there, path, hash, pageId })
    } finally {
      this.#bytesOut -= out
    }
  }

  /** What the timer does: never fails, and stops the run when its part may be another's. */
  async #beat(): Promise<void> {
    try {
      await this.#flush()
      if (this.#unnoted && Date.now() - this.#notedAt > noteEveryMs) await this.#note()
    } catch (error) {
      if (error instanceof TakenOver) this.#stop.abort(error)
      // A database that is away for a moment is waited for; what was taken says for how long.
      else if (Date.now() - this.#renewedAt > partMs) this.#stop.abort(new TakenOver())
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
        const [files, removed, addresses] = [this.#unrecorded, this.#removed, this.#goingOut]
        this.#unrecorded = []
        this.#removed = []
        this.#goingOut = []
        const bytesOut = this.#bytesOut
        const { id, destinationId } = this.delivery
        try {
          const begun = Date.now()
          const stand = await transaction(async (client) => {
            const sent = await recordSent(client, id, destinationId, this.worker, files)
            const removedCount = await noteRemoved(client, id, removed)
            await recordRemoved(client, destinationId, removed)
            await recordAddresses(client, destinationId, addresses)
            const renewed = await renewDelivery(client, id, this.worker, this.leads, {
              ...sent,
              removedCount,
              bytesOut,
            })
            // Without its part the record is another's to write; what was sent is read back by it.
            if (!renewed || !(await renewHold(client, destinationId, id))) throw new TakenOver()
            return renewed
          })
          this.#stand = stand
          this.#unnoted ||= addresses.length > 0
          this.#renewedAt = begun
          if (this.#stop.signal.aborted) return
          if (stand.cancelAsked) this.#stop.abort(new Cancelled())
          else if (stand.pauseAsked) this.#stop.abort(new Paused())
        } catch (error) {
          // What was sent stays to be recorded with the next try.
          this.#unrecorded = [...files, ...this.#unrecorded]
          this.#removed = [...removed, ...this.#removed]
          this.#goingOut = [...addresses, ...this.#goingOut]
          throw error
        }
        if (this.leads) await this.#tell('running').catch(() => {})
      })
    return this.#flushing
  }
}
