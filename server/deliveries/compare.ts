import { randomUUID } from 'node:crypto'
import { compareDelivery, type Comparison } from '#core/delivery'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { hashOfPieces } from '#server/contents'
import { listListed, listRecorded, recordThere, replaceListing, type SentFile } from './delivery-rows'
import { releaseHold, renewHold, takeHold } from './hold-rows'
import { Problem } from '#core/problems'
import { eachOf, log, pool, portionsOf, transaction } from '#server/platform'
import { filesOfSite, type SiteFiles, type StoredSite } from '#server/sites'
import { type OpenDestination, openDestination } from './open-destination'
import type { Transport } from './transfer/transport'

/** Files read back at the same time, to find out what an unrecorded one holds. */
const readConcurrency = 16

/** The site against what is known of a destination, without asking it. */
export async function compareKnown(
  stored: StoredSite,
  destinationId: string,
  signal?: AbortSignal,
): Promise<Comparison> {
  const [{ manifest }, recorded, listed] = await Promise.all([
    filesOfSite(pool(), stored.site, signal),
    listRecorded(pool(), destinationId),
    listListed(pool(), destinationId),
  ])
  return compareDelivery(manifest, recorded, listed)
}

/** Asks the destination what is there, reads back what no delivery recorded, and keeps the answer. */
export async function lookThere(
  destination: OpenDestination,
  stored: StoredSite,
  signal: AbortSignal = new AbortController().signal,
): Promise<void> {
  await whileHolding(destination.id, signal, async (held) => {
    const transport = await openDestination(destination, held)
    try {
      await refreshListing(
        transport,
        destination.id,
        await filesOfSite(pool(), stored.site, held),
        stored.site,
      )
    } finally {
      await transport.close()
    }
  })
}

const renewEveryMs = 2_000

/** Runs `work` while nobody else works at the destination; throws the Problem `busy` when somebody does. */
async function whileHolding<T>(
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

/**
 * Reads what is there, mends what a cut delivery left, and reads back files that no delivery recorded.
 * The caller holds the destination.
 */
export async function refreshListing(
  transport: Transport,
  destinationId: string,
  { manifest }: SiteFiles,
  site: Site,
): Promise<Comparison> {
  const listed = await transport.mend(await transport.list())
  await transaction((client) => replaceListing(client, destinationId, listed))
  const comparison = compareDelivery(manifest, await listRecorded(pool(), destinationId), listed)
  const unknown = comparison.files.filter((file) => file.state === 'unknown')
  if (unknown.length === 0) return comparison
  const times = new Map(listed.map((file) => [file.path, file.modifiedSeconds]))
  const { byPath } = namesOf(site)
  const there: SentFile[] = []
  for (const portion of portionsOf(unknown))
    await eachOf(portion, readConcurrency, async ({ path, sizeBytes, hash }) => {
      // One that is not what its size says is another file, whatever it holds.
      const read = await hashOfPieces(transport.read(path, sizeBytes)).catch((error: { code?: string }) => {
        if (error.code === 'too-much') return null
        throw error
      })
      if (read === null) return
      const target = byPath.get(path)
      there.push({
        path,
        ...read,
        modifiedSeconds: times.get(path) ?? null,
        // Ours, since it is byte for byte what the site has there.
        pageId: read.hash === hash && target?.kind === 'page' ? target.id : null,
      })
    })
  await transaction((client) => recordThere(client, destinationId, there))
  return compareDelivery(manifest, await listRecorded(pool(), destinationId), listed)
}
