import { Problem } from '#core/problems'
import { config, maybeOne, type Queryable } from '#server/platform'

const inGigabytes = (bytes: number) =>
  `${(bytes / 1e9).toLocaleString('en', { maximumFractionDigits: 1 })} GB`

/** Sites of an account, and the pages and the bytes of all files in them. */
async function usedBy(
  db: Queryable,
  accountId: string,
): Promise<{ sites: number; pages: number; bytes: number }> {
  return (await maybeOne<{ sites: number; pages: number; bytes: number }>(
    db,
    `SELECT (SELECT count(*)::int FROM sites WHERE account_id = $1) AS sites,
       (SELECT count(*)::int FROM pages p JOIN sites s ON s.id = p.site_id WHERE s.account_id = $1) AS pages,
       (SELECT coalesce(sum(f.size_bytes), 0)::float8 FROM site_files f JOIN sites s ON s.id = f.site_id
        WHERE s.account_id = $1) AS bytes`,
    [accountId],
  ))!
}

/**
 * Refuses a new site, written already in the same transaction, of an account that has too much with it.
 * @throws Problem `too-many-sites`, `too-many-pages`, `account-full`
 */
export async function requireRoom(db: Queryable, accountId: string): Promise<void> {
  // Two at once are counted one after the other. Each holds the account by its key already, as its rows refer to it: a
  // stronger lock would have them wait for one another for ever.
  await db.query('SELECT 1 FROM accounts WHERE id = $1 FOR NO KEY UPDATE', [accountId])
  const { mostSites, mostPages, mostBytes } = config().perAccount
  const { sites, pages, bytes } = await usedBy(db, accountId)
  if (sites > mostSites) throw new Problem('too-many-sites', { most: mostSites })
  if (pages > mostPages) throw new Problem('too-many-pages', { most: mostPages })
  if (bytes > mostBytes) throw new Problem('account-full', { most: inGigabytes(mostBytes) })
}

/**
 * Refuses pages that were added to a site, in the same transaction, where its owner has too many with them.
 * @throws Problem `too-many-pages`
 */
export async function requireRoomForPages(db: Queryable, siteId: string): Promise<void> {
  const { mostPages } = config().perAccount
  const row = await maybeOne<{ pages: number }>(
    db,
    `SELECT count(*)::int AS pages FROM pages p JOIN sites s ON s.id = p.site_id
     WHERE s.account_id = (SELECT account_id FROM sites WHERE id = $1)`,
    [siteId],
  )
  if (row!.pages > mostPages) throw new Problem('too-many-pages', { most: mostPages })
}

/** What files of a site's owner may still have, in bytes, and the problem where it is not enough. */
export async function roomOfOwner(
  db: Queryable,
  siteId: string,
): Promise<{ readonly bytes: number; readonly full: () => Problem }> {
  const row = await maybeOne<{ used: number }>(
    db,
    `SELECT coalesce(sum(f.size_bytes), 0)::float8 AS used FROM site_files f JOIN sites s ON s.id = f.site_id
     WHERE s.account_id = (SELECT account_id FROM sites WHERE id = $1)`,
    [siteId],
  )
  const used = row!.used
  const { mostBytes } = config().perAccount
  return {
    bytes: mostBytes - used,
    full: () => new Problem('account-full', { most: inGigabytes(mostBytes) }),
  }
}
