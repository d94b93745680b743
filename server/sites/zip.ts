import { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import { ZipFile } from 'yazl'
import type { Pieces } from '#server/contents'
import { portionsOf } from '#server/platform'
import type { SiteFiles } from './build'

/**
 * One fixed moment makes equal sites equal files. ZIP keeps local time without a zone, from 1980
 * on (APPNOTE 4.4.6), so the moment is given in local time: the same digits everywhere.
 */
const zipTime = new Date(1980, 0, 1)

/** A file of an archive. */
export interface ZipEntry {
  readonly path: string
  readonly pieces: Pieces
}

/**
 * Files as a ZIP, one after the other as it is read; equal files give equal bytes. No further one is asked for before the one
 * in front of it has been read, and none after the reader has gone.
 * @param onEnd called once, when it is complete or its reader has gone, and told whether all of it was read
 */
export function zipFiles(
  entries: AsyncIterable<ZipEntry>,
  onEnd: (isComplete: boolean) => void = () => {},
): ReadableStream<Uint8Array> {
  const zip = new ZipFile()
  const out = zip.outputStream as Readable
  let current: Readable | null = null
  out.once('close', () => {
    current?.destroy()
    onEnd(out.readableEnded)
  })
  const options = { mtime: zipTime, forceDosTimestamp: true, mode: 0o100644 }
  const pack = async () => {
    for await (const { path, pieces } of entries) {
      if (out.destroyed) return
      current = Readable.from(pieces)
      const ended = finished(current)
      zip.addReadStream(current, path, options)
      await ended
    }
    zip.end()
  }
  pack().catch((error: Error) => out.destroy(error))
  return Readable.toWeb(out) as ReadableStream<Uint8Array>
}

/** Files by their paths, each asked for when it is its turn. */
export async function* inTurn(
  paths: Iterable<string>,
  piecesAt: (path: string) => Promise<Pieces>,
): AsyncGenerator<ZipEntry> {
  for (const path of paths) yield { path, pieces: await piecesAt(path) }
}

/**
 * The site as a ZIP, read in portions that fit in memory.
 * @param onEnd as of `zipFiles`
 */
export function zipSite(
  { manifest, bytesOf, piecesOf }: Pick<SiteFiles, 'manifest' | 'bytesOf' | 'piecesOf'>,
  onEnd?: (isComplete: boolean) => void,
): ReadableStream<Uint8Array> {
  const portions = [...portionsOf(manifest)]
  const portionOf = new Map(portions.flatMap((files, index) => files.map(({ path }) => [path, index])))
  let current = { index: -1, bytes: Promise.resolve(new Map<string, Buffer>()) }
  const bytesAt = async (path: string): Promise<Buffer> => {
    const index = portionOf.get(path)!
    if (current.index !== index)
      current = { index, bytes: bytesOf(portions[index]!.map((file) => file.path)) }
    return (await current.bytes).get(path)!
  }
  // One that is larger than a portion comes in pieces, and is never whole in memory.
  const piecesAt = async (path: string) => (await piecesOf(path)) ?? [await bytesAt(path)]
  const paths = manifest.map(({ path }) => path)
  return zipFiles(inTurn(paths, piecesAt), onEnd)
}
