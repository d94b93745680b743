import { buffer } from 'node:stream/consumers'
import { Problem } from '#core/problems'
import { beginBringing } from '#server/bringing'
import { getBlobs } from '#server/contents'
import { limitDestinationTests, pool } from '#server/platform'
import { type StoredSite, zipFiles } from '#server/sites'
import { filesFor } from '../places/files-for'
import {
  atDestination,
  closeDestination,
  type OpenDestination,
  openDestination,
} from '../places/open-destination'
import { hashAfter } from '../sending/record-rows'
import { readTemporary } from '../transfer/transport'
import { takeFrom } from './fetch-site'

/** Whose file: the finished site's, the host's, or what a delivery had left there. */
export type Side = 'here' | 'there' | { readonly after: string }

/** A file that is compared is not larger than this. */
const mostBytes = 20_000_000

/**
 * A file as it stands on one side; null where it does not.
 * @throws Problem `file-too-large`; TransferError
 */
export async function readSide(
  stored: StoredSite,
  accountId: string,
  destination: OpenDestination,
  side: Side,
  path: string,
  signal: AbortSignal,
): Promise<Buffer | null> {
  if (path.split('/').some((step) => step === '' || step === '.' || step === '..'))
    throw new Problem('bad-input', { why: 'This is no path of a file.' })
  if (side === 'there') {
    await limitDestinationTests(accountId)
    return atDestination(destination, signal, (transport) =>
      buffer(transport.read(path, mostBytes)).catch((error: { code?: string }) => {
        if (error.code === 'not-there') return null
        if (error.code === 'too-much') throw new Problem('file-too-large', { most: '20 MB' })
        throw error
      }),
    )
  }
  if (side !== 'here') {
    const hash = await hashAfter(pool(), destination.id, side.after, path)
    return hash === null ? null : ((await getBlobs(pool(), [hash])).get(hash) ?? null)
  }
  const files = await filesFor(stored.site, destination.id, signal)
  const file = files.manifest.find((one) => one.path === path)
  if (!file) return null
  if (file.sizeBytes > mostBytes) throw new Problem('file-too-large', { most: '20 MB' })
  const pieces = await files.piecesOf(path)
  return pieces ? buffer(pieces) : ((await files.bytesOf([path])).get(path) ?? null)
}

/** What stands at a destination as a ZIP, fetched as it is read. */
export async function zipThere(
  destination: OpenDestination,
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const transport = await openDestination(destination, signal)
  try {
    const listed = (await transport.list()).filter(({ path }) => readTemporary(path) === null)
    const sizes = new Map(listed.map((file) => [file.path, file.sizeBytes]))
    return zipFiles(
      listed.map(({ path }) => path).sort(),
      async (path) => transport.read(path, sizes.get(path)!),
      () => void closeDestination(destination, transport),
    )
  } catch (error) {
    await closeDestination(destination, transport)
    throw error
  }
}

/**
 * Fetches files of a destination into what waits to be brought in: somebody changed them there.
 * @param paths null for all
 * @returns the id under which they wait
 */
export async function takeThere(
  accountId: string,
  destination: OpenDestination,
  paths: ReadonlySet<string> | null,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<string> {
  await limitDestinationTests(accountId)
  const bringingId = await beginBringing(accountId, destination.name)
  await atDestination(destination, signal, (transport) =>
    takeFrom(transport, destination.folder, { accountId, bringingId }, paths, signal, tell),
  )
  return bringingId
}
