import { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import type { SiteFiles } from './site-build'

/**
 * One fixed moment makes equal sites equal files. ZIP keeps local time without a zone, from 1980
 * on (APPNOTE 4.4.6), so the moment is given in local time: the same digits everywhere.
 */
const zipTime = new Date(1980, 0, 1)
const portion = 100

/** The site as a ZIP, file by file as it is read; the same site gives the same bytes. */
export function zipSite({ manifest, bytesOf }: SiteFiles): ReadableStream<Uint8Array> {
  const zip = new ZipFile()
  void (async () => {
    for (let at = 0; at < manifest.length; at += portion) {
      const paths = manifest.slice(at, at + portion).map((file) => file.path)
      const bytes = await bytesOf(paths)
      for (const path of paths)
        zip.addBuffer(bytes.get(path)!, path, { mtime: zipTime, forceDosTimestamp: true, mode: 0o100644 })
    }
    zip.end()
  })().catch((error: unknown) => (zip.outputStream as Readable).destroy(error as Error))
  return Readable.toWeb(zip.outputStream as Readable) as ReadableStream<Uint8Array>
}
