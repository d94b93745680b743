import type { ManifestFile } from '#core/delivery'
import type { Hash, Site } from '#core/site'
import { log, maybeOne, pool, type Queryable } from '#server/platform'
import { filesOfSite } from './build'
import { zipSite } from './zip'

/** What has become of a site since the latest ZIP of it that an account took. */
export interface SinceZip {
  readonly takenAt: Date
  /** Files that are new or otherwise than they were. */
  readonly changed: readonly ManifestFile[]
  /** Paths of those that were in it, and are files of the site no more. */
  readonly gone: readonly string[]
}

/** Null where the account has taken none. */
export async function changedSinceZip(
  db: Queryable,
  siteId: string,
  accountId: string,
  manifest: readonly ManifestFile[],
): Promise<SinceZip | null> {
  const latest = await maybeOne<{ takenAt: Date; hashes: Readonly<Record<string, Hash>> }>(
    db,
    'SELECT taken_at AS "takenAt", hashes FROM taken_zips WHERE site_id = $1 AND account_id = $2',
    [siteId, accountId],
  )
  if (!latest) return null
  const before = new Map(Object.entries(latest.hashes))
  const changed = manifest.filter(({ path, hash }) => before.get(path) !== hash)
  for (const { path } of manifest) before.delete(path)
  return { takenAt: latest.takenAt, changed, gone: [...before.keys()].sort() }
}

/** Notes that an account has all of a site now. */
const noteZip = (siteId: string, accountId: string, manifest: readonly ManifestFile[]): Promise<unknown> =>
  pool().query(
    `INSERT INTO taken_zips (site_id, account_id, hashes) SELECT id, $2, $3 FROM sites WHERE id = $1
     ON CONFLICT (site_id, account_id) DO UPDATE SET taken_at = now(), hashes = excluded.hashes`,
    [siteId, accountId, JSON.stringify(Object.fromEntries(manifest.map(({ path, hash }) => [path, hash])))],
  )

/**
 * The finished site as a ZIP, whole or what has changed since the latest that the account took; all of it where there is
 * none. It counts as taken once it has been read to its end.
 */
export async function takeZip(
  site: Site,
  accountId: string,
  isWhole: boolean,
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const files = await filesOfSite(pool(), site, signal)
  const since = isWhole ? null : await changedSinceZip(pool(), site.id, accountId, files.manifest)
  return zipSite(since ? { ...files, manifest: since.changed } : files, (isComplete) => {
    if (!isComplete) return
    noteZip(site.id, accountId, files.manifest).catch((error: unknown) =>
      log.warn({ err: error, siteId: site.id }, 'a ZIP that was taken could not be noted'),
    )
  })
}
