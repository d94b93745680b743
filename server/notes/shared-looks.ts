import { createHash, randomBytes } from 'node:crypto'
import { many, maybeOne, pool } from '#server/platform'
import { loadSite, type SiteOfSomebody } from '#server/sites'

/** A look at a site that was handed out, as those who manage the site see it. */
export interface SharedLook {
  readonly id: string
  readonly label: string
  readonly madeAt: Date
  readonly endsAt: Date
  readonly noteCount: number
}

const hashOf = (token: string) => createHash('sha256').update(token).digest()

/**
 * Makes an address that shows a site, as it comes out, to whoever opens it.
 * @param days after which it shows nothing any more
 * @returns what the address holds: it is not kept, so this is the only time
 */
export async function shareLook(
  siteId: string,
  madeBy: string,
  { label, days }: { label: string; days: number },
): Promise<string> {
  const token = randomBytes(18).toString('base64url')
  await pool().query(
    `INSERT INTO shared_looks (site_id, label, token_hash, made_by, ends_at)
     VALUES ($1, $2, $3, $4, now() + make_interval(days => $5))`,
    [siteId, label, hashOf(token), madeBy, days],
  )
  return token
}

/** Looks at a site that can still be opened. */
export const listSharedLooks = (siteId: string): Promise<SharedLook[]> =>
  many<SharedLook>(
    pool(),
    `SELECT l.id, l.label, l.made_at AS "madeAt", l.ends_at AS "endsAt",
       (SELECT count(*)::int FROM notes n WHERE n.look_id = l.id) AS "noteCount"
     FROM shared_looks l WHERE l.site_id = $1 AND l.ends_at > now() ORDER BY l.made_at DESC, l.id LIMIT 200`,
    [siteId],
  )

/** Withdraws a look; what was noted stays. */
export async function endSharedLook(siteId: string, id: string): Promise<void> {
  await pool().query('UPDATE shared_looks SET ends_at = now() WHERE site_id = $1 AND id = $2', [siteId, id])
}

/** A look that somebody holds the address of, with the site that it shows. */
export interface HeldLook extends SiteOfSomebody {
  readonly id: string
  readonly endsAt: Date
}

interface LookRow {
  readonly id: string
  readonly siteId: string
  readonly madeBy: string
  readonly endsAt: Date
}

async function held(row: LookRow | null): Promise<HeldLook | null> {
  if (!row) return null
  // Whoever takes part in the site no more shows it to nobody.
  const stored = await loadSite(pool(), row.siteId, row.madeBy)
  return stored && { ...stored, id: row.id, endsAt: row.endsAt }
}

const openLooks = `SELECT id, site_id AS "siteId", made_by AS "madeBy", ends_at AS "endsAt" FROM shared_looks
  WHERE ends_at > now()`

/** What an address shows; null when it shows nothing (any more). */
export const openSharedLook = async (token: string): Promise<HeldLook | null> =>
  held(await maybeOne<LookRow>(pool(), `${openLooks} AND token_hash = $1`, [hashOf(token)]))

/** The same by its id, for addresses that were signed for it. */
export const sharedLookOf = async (id: string): Promise<HeldLook | null> =>
  held(await maybeOne<LookRow>(pool(), `${openLooks} AND id = $1`, [id]))
