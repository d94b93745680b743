import { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { portionsOf } from '#server/platform'
import type { SiteFiles } from './build'

/**
 * One fixed moment makes equal sites equal files. ZIP keeps local time without a zone, from 1980
 * on (APPNOTE 4.4.6), so the moment is given in local time: the same digits everywhere.
 */
const zipTime = new Date(1980, 0, 1)

/**
 * The site as a ZIP, file by file as it is read; the same site gives the same bytes. No further file is
 * made before the one in front of it has been read, and none after the reader has gone.
 */
export function zipSite({ manifest, bytesOf, piecesOf }: SiteFiles): ReadableStream<Uint8Array> {
  const zip = new ZipFile()
  const out = zip.outputStream as Readable
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
  const options = { mtime: zipTime, forceDosTimestamp: true, mode: 0o100644 }
  for (const { path } of manifest)
    zip.addReadStreamLazy(path, options, (done) => {
      if (out.destroyed) return
      piecesAt(path).then(
        (pieces) => done(null, Readable.from(pieces)),
        (error: Error) => out.destroy(error),
      )
    })
  zip.end()
  return Readable.toWeb(out) as ReadableStream<Uint8Array>
}
