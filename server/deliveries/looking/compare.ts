import { randomUUID } from 'node:crypto'
import {
  compareDelivery,
  type ComparedFile,
  type Comparison,
  type ListedFile,
  type ManifestFile,
} from '#core/delivery'
import { clashKey, namesOf } from '#core/naming'
import { Problem } from '#core/problems'
import type { Site } from '#core/site'
import { hashOfPieces } from '#server/contents'
import { eachOf, log, pool, portionsOf, transaction } from '#server/platform'
import type { StoredSite } from '#server/sites'
import { filesFor } from '../places/files-for'
import { releaseHold, renewHold, takeHold } from '../places/hold-rows'
import { listListed, listRecorded, recordThere, replaceListing, type SentFile } from '../places/known-rows'
import { traitsOf } from '../places/web-host-rows'
import { atDestination, type OpenDestination } from '../places/open-destination'
import { listTried } from '../sending/item-rows'
import type { Transport } from '../transfer/transport'

/** Files read back at the same time, to find out what an unrecorded one holds. */
const readConcurrency = 16

/** A file of the finished site, with the page it is. */
export interface PlacedFile extends ManifestFile {
  /** Null for what is no page. */
  readonly pageId: string | null
}

/** The same files, each with the page it is. */
export function placed(manifest: readonly ManifestFile[], site: Site): PlacedFile[] {
  const { byPath } = namesOf(site)
  return manifest.map((file) => {
    const target = byPath.get(file.path)
    return { ...file, pageId: target?.kind === 'page' ? target.id : null }
  })
}

/** The site against what is known of a destination, without asking it. */
export async function compareKnown(
  stored: StoredSite,
  destinationId: string,
  signal?: AbortSignal,
): Promise<Comparison> {
  const { manifest } = await filesFor(stored.site, destinationId, signal)
  return againstKnown(destinationId, manifest)
}

/** Files of a finished site against what is known of a destination. */
export async function againstKnown(
  destinationId: string,
  manifest: readonly ManifestFile[],
): Promise<Comparison> {
  const [recorded, listed, traits] = await Promise.all([
    listRecorded(pool(), destinationId),
    listListed(pool(), destinationId),
    traitsOf(pool(), destinationId),
  ])
  return compareDelivery(manifest, recorded, listed, traits)
}

/** Told how many bytes were read back, of how many. */
export type OnReadBack = (doneBytes: number, allBytes: number) => void

/**
 * Asks the destination what is there, reads back what no delivery recorded, and keeps the answer. Stopped in the middle, it
 * has kept what it read back until then.
 */
export async function lookThere(
  destination: OpenDestination,
  stored: StoredSite,
  signal: AbortSignal = new AbortController().signal,
  tell?: OnReadBack,
): Promise<void> {
  await whileHolding(destination.id, signal, async (held) => {
    await atDestination(destination, held, async (transport) => {
      const { manifest } = await filesFor(stored.site, destination.id, held)
      await refreshListing(transport, destination.id, placed(manifest, stored.site), tell)
    })
  })
}

const renewEveryMs = 2_000

/** Runs `work` while nobody else works at the destination; throws the Problem `busy` when somebody does. */
export async function whileHolding<T>(
  destinationId: string,
  signal: AbortSignal,
  work: (held: AbortSignal) => Promise<T>,
): Promise<T> {
  const holder = randomUUID()
  if (!(await transaction((client) => takeHold(client, destinationId, holder)))) throw new Problem('busy')
  const lost = new AbortController()
  const timer = setInterval(() => {
    renewHold(pool(), destinationId, holder).then(
      (kept) => kept || lost.abort(),
      (error: unknown) => log.warn({ err: error }, 'renewing a hold'),
    )
  }, renewEveryMs)
  try {
    return await work(AbortSignal.any([signal, lost.signal]))
  } finally {
    clearInterval(timer)
    await releaseHold(pool(), destinationId, holder).catch((error: unknown) =>
      log.warn({ err: error }, 'releasing a hold'),
    )
  }
}

/** Larger files that were changed there are not read back to see whether they are ours. */
const readBackBytes = 50_000_000

/**
 * Reads what is there, and mends what a cut delivery left. Files that no delivery recorded are read back, and those
 * of another time than was recorded: they may hold what they are to hold, or what a cut left unrecorded.
 * The caller holds the destination.
 */
export async function refreshListing(
  transport: Transport,
  destinationId: string,
  manifest: readonly PlacedFile[],
  tell: OnReadBack = () => {},
): Promise<Comparison> {
  const listed = await transport.mend(await transport.list())
  await transaction((client) => replaceListing(client, destinationId, listed))
  await learnCase(transport, manifest, listed)
  const compare = async () =>
    compareDelivery(manifest, await listRecorded(pool(), destinationId), listed, transport.traits)
  const comparison = await compare()
  const there = new Map(listed.map((file) => [file.path, file]))
  const isOpen = ({ state, path }: ComparedFile) =>
    state === 'unknown' || (state === 'changed there' && there.get(path)!.sizeBytes <= readBackBytes)
  const open = comparison.files.filter(isOpen)
  if (open.length === 0) return comparison
  const pageIds = new Map(manifest.map((file) => [file.path, file.pageId]))
  const known = new Map((await listRecorded(pool(), destinationId)).map((file) => [file.path, file.hash]))
  const allBytes = open.reduce((sum, { path }) => sum + there.get(path)!.sizeBytes, 0)
  let doneBytes = 0
  const told = (byteCount: number) => tell((doneBytes += byteCount), allBytes)
  told(0)
  for (const portion of portionsOf(open)) {
    const tried = await listTried(
      pool(),
      destinationId,
      portion.map((file) => file.path),
    )
    const found: SentFile[] = []
    await eachOf(portion, readConcurrency, async ({ path, hash, state }) => {
      const { sizeBytes, modifiedSeconds } = there.get(path)!
      // One that is not what its size says is another file, whatever it holds.
      let left = sizeBytes
      const onPiece = ({ length }: Buffer) => {
        left -= length
        told(length)
      }
      const read = await hashOfPieces(eachTold(transport.read(path, sizeBytes), onPiece)).catch(
        (error: { code?: string }) => {
          if (error.code === 'too-much' || error.code === 'not-there') return null
          throw error
        },
      )
      told(left)
      if (read === null) return
      const isOurs = [hash, known.get(path)].includes(read.hash) || tried.get(path)?.has(read.hash)
      // What somebody else changed stays known as that.
      if (state === 'changed there' && !isOurs) return
      const pageId = isOurs ? (pageIds.get(path) ?? null) : null
      found.push({ path, ...read, modifiedSeconds, pageId })
    })
    await transaction((client) => recordThere(client, destinationId, found))
  }
  return compare()
}

async function* eachTold(pieces: AsyncIterable<Buffer>, onPiece: (piece: Buffer) => void) {
  for await (const piece of pieces) {
    onPiece(piece)
    yield piece
  }
}

/**
 * Finds out whether the host tells case apart, where that matters: what is to stand at `about.html` and is at
 * `About.html` is one file on some, and would go with it when that is removed.
 */
async function learnCase(
  transport: Transport,
  manifest: readonly ManifestFile[],
  listed: readonly ListedFile[],
): Promise<void> {
  if (transport.traits.tellsCase !== undefined) return
  const folded = new Map(manifest.map(({ path }) => [clashKey(path), path]))
  const there = new Set(listed.map(({ path }) => path))
  for (const { path } of listed) {
    const like = folded.get(clashKey(path))
    if (like === undefined || like === path) continue
    return transport.learn({ tellsCase: there.has(like) || !(await transport.has(like)) })
  }
}
