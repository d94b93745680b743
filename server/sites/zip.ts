import { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import type { Pieces } from '#server/contents'
import { portionsOf } from '#server/platform'
import type { SiteFiles } from './build'

/**
 * One fixed moment makes equal sites equal files. ZIP keeps local time without a zone, from 1980
 * on (APPNOTE 4.4.6), so the moment is given in local time: the same digits everywhere.
 */
const zipTime = new Date(1980, 0, 1)

/**
 * Files as a ZIP, one after the other as it is read; equal files give equal bytes. No further one is fetched before
 * the one in front of it has been read, and none after the reader has gone.
 * @param onEnd called once, when it is complete or its reader has gone
 */
export function zipFiles(
  paths: readonly string[],
  piecesAt: (path: string) => Promise<Pieces>,
  onEnd: () => void = () => {},
): ReadableStream<Uint8Array> {
  const zip = new ZipFile()
  const out = zip.outputStream as Readable
  out.once('close', onEnd)
  const options = { mtime: zipTime, forceDosTimestamp: true, mode: 0o100644 }
  for (const path of paths)
    zip.addReadStreamLazy(path, options, (done) => {
      if (out.destroyed) return
      piecesAt(path).then(
        (pieces) => {
          const stream = Readable.from(pieces)
          stream.once('error', (error) => out.destroy(error))
          done(null, stream)
        },
        (error: Error) => out.destroy(error),
      )
    })
  zip.end()
  return Readable.toWeb(out) as ReadableStream<Uint8Array>
}

/** The site as a ZIP, read in portions that fit in memory. */
export function zipSite({ manifest, bytesOf, piecesOf }: SiteFiles): ReadableStream<Uint8Array> {
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
  return zipFiles(
    manifest.map(({ path }) => path),
    piecesAt,
  )
}
