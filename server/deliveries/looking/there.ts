import { buffer } from 'node:stream/consumers'
import type { ListedFile } from '#core/delivery'
import { Problem } from '#core/problems'
import { beginBringing } from '#server/bringing'
import { getBlobs } from '#server/contents'
import { limitDestinationTests, pool } from '#server/platform'
import { type StoredSite, type ZipEntry, zipFiles } from '#server/sites'
import { filesFor } from '../places/files-for'
import {
  atDestination,
  closeDestination,
  type OpenDestination,
  openDestination,
} from '../places/open-destination'
import { hashAfter } from '../sending/record-rows'
import { readTemporary, type Transport } from '../transfer/transport'
import { takeFrom } from './fetch-site'
import { LeftOut } from './left-out'

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

/** What stands at a destination as a ZIP, fetched as it is read; what cannot be had is told in a text at its end. */
export async function zipThere(
  destination: OpenDestination,
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const transport = await openDestination(destination, signal)
  const leftOut = new LeftOut()
  try {
    const listed = (await transport.list(leftOut.add))
      .filter(({ path }) => readTemporary(path) === null)
      .sort((a, b) => (a.path < b.path ? -1 : 1))
    return zipFiles(
      entriesOf(transport, listed, leftOut),
      () => void closeDestination(destination, transport),
    )
  } catch (error) {
    await closeDestination(destination, transport)
    throw error
  }
}

async function* entriesOf(
  transport: Transport,
  listed: readonly ListedFile[],
  leftOut: LeftOut,
): AsyncGenerator<ZipEntry> {
  for (const { path, sizeBytes } of listed) {
    const pieces = transport.read(path, sizeBytes)[Symbol.asyncIterator]()
    try {
      // With its first piece a file is there: an archive has no way back from a name that it has begun.
      const first = await pieces.next()
      yield { path, pieces: goingOn(first, pieces) }
    } catch (error) {
      if (!(error instanceof Problem) || !leftOut.add(path, error)) throw error
    }
  }
  if (leftOut.told.length === 0) return
  const lines = leftOut.told.map(({ path, why }) => `${path}\t${why}\n`)
  const names = new Set(listed.map(({ path }) => path))
  let name = 'not-fetched.txt'
  for (let nth = 2; names.has(name); nth++) name = `not-fetched-${nth}.txt`
  yield { path: name, pieces: [Buffer.from(lines.join(''))] }
}

async function* goingOn(first: IteratorResult<Buffer>, rest: AsyncIterator<Buffer>): AsyncGenerator<Buffer> {
  try {
    for (let next = first; !next.done; next = await rest.next()) yield next.value
  } finally {
    await rest.return?.()
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
