import { Problem } from '#core/problems'
import { config, maybeOne, type Queryable } from '#server/platform'

const inGigabytes = (bytes: number) =>
  `${(bytes / 1e9).toLocaleString('en', { maximumFractionDigits: 1 })} GB`

/** Sites of an account, and the bytes of all files in them. */
async function usedBy(db: Queryable, accountId: string): Promise<{ sites: number; bytes: number }> {
  return (await maybeOne<{ sites: number; bytes: number }>(
    db,
    `SELECT (SELECT count(*)::int FROM sites WHERE account_id = $1) AS sites,
       (SELECT coalesce(sum(f.size_bytes), 0)::float8 FROM site_files f JOIN sites s ON s.id = f.site_id
        WHERE s.account_id = $1) AS bytes`,
    [accountId],
  ))!
}

/**
 * Refuses a new site, written already in the same transaction, of an account that has too much with it.
 * @throws Problem `too-many-sites`, `account-full`
 */
export async function requireRoom(db: Queryable, accountId: string): Promise<void> {
  // Two at once are counted one after the other. Each holds the account by its key already, as its rows refer to it: a
  // stronger lock would have them wait for one another for ever.
  await db.query('SELECT 1 FROM accounts WHERE id = $1 FOR NO KEY UPDATE', [accountId])
  const { mostSites, mostBytes } = config().perAccount
  const { sites, bytes } = await usedBy(db, accountId)
  if (sites > mostSites) throw new Problem('too-many-sites', { most: mostSites })
  if (bytes > mostBytes) throw new Problem('account-full', { most: inGigabytes(mostBytes) })
}

/** What files of a site's owner may still have, in bytes, and the problem where it is not enough. */
export async function roomOfOwner(
  db: Queryable,
  siteId: string,
): Promise<{ readonly bytes: number; readonly full: () => Problem }> {
  const owner = await maybeOne<{ id: string }>(db, 'SELECT account_id AS id FROM sites WHERE id = $1', [
    siteId,
  ])
  const { mostBytes } = config().perAccount
  const used = owner ? (await usedBy(db, owner.id)).bytes : 0
  return {
    bytes: mostBytes - used,
    full: () => new Problem('account-full', { most: inGigabytes(mostBytes) }),
  }
}
