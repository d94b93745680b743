import { Readable } from 'node:stream'
import type { ManifestFile } from '#core/delivery'
import { Problem } from '#core/problems'
import type { Hash, Site } from '#core/site'
import { pool, portionsOf } from '#server/platform'
import { filesOfSite, type SiteFiles } from './build'

/** A file of the finished site, as it was told. */
export interface MadeFile {
  readonly path: string
  readonly hash: Hash
}

/** Every file of the finished site, for who puts it somewhere without the server. */
export const listMade = async (site: Site, signal: AbortSignal): Promise<readonly ManifestFile[]> =>
  (await filesOfSite(pool(), site, signal)).manifest

/**
 * The bytes of some files of the finished site, one after the other as they are asked for, with nothing between them.
 * @throws Problem `changed-elsewhere` where one is not what it was told to be
 */
export async function streamMade(
  site: Site,
  asked: readonly MadeFile[],
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const files = await filesOfSite(pool(), site, signal)
  const byPath = new Map(files.manifest.map((file) => [file.path, file]))
  const found = asked.map(({ path, hash }) => {
    const file = byPath.get(path)
    if (file?.hash !== hash)
      throw new Problem('changed-elsewhere', { why: 'The site was changed in the meantime. Compare again.' })
    return file
  })
  return Readable.toWeb(Readable.from(bytesInTurn(files, found))) as ReadableStream<Uint8Array>
}

/** No more than a portion is held at a time, and nothing larger is held whole. */
async function* bytesInTurn(files: SiteFiles, found: readonly ManifestFile[]): AsyncGenerator<Buffer> {
  for (const portion of portionsOf(found)) {
    const bytes = await files.bytesOf(portion.map(({ path }) => path))
    for (const { path } of portion) {
      const whole = bytes.get(path)
      if (whole) yield whole
      else yield* (await files.piecesOf(path)) ?? []
    }
  }
}
