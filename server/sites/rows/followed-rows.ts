import type { Followed } from '#core/findings'
import { many, type Queryable } from '#server/platform'

export interface FollowedAddress extends Followed {
  readonly address: string
  readonly followedAt: Date
}

export const listFollowed = (db: Queryable, siteId: string): Promise<FollowedAddress[]> =>
  many<FollowedAddress>(
    db,
    `SELECT address, outcome, status, moved_to AS "movedTo", followed_at AS "followedAt"
     FROM followed_addresses WHERE site_id = $1`,
    [siteId],
  )

export async function putFollowed(
  db: Queryable,
  siteId: string,
  followed: readonly (Followed & { readonly address: string })[],
): Promise<void> {
  if (followed.length === 0) return
  await db.query(
    `INSERT INTO followed_addresses (site_id, address, outcome, status, moved_to)
     SELECT $1, address, outcome, status, "movedTo"
     FROM jsonb_to_recordset($2) AS t(address text, outcome text, status integer, "movedTo" text)
     ON CONFLICT (site_id, md5(address)) DO UPDATE
       SET outcome = excluded.outcome, status = excluded.status, moved_to = excluded.moved_to, followed_at = now()`,
    [siteId, JSON.stringify(followed)],
  )
}

/** Forgets what the site no longer leads to. */
export async function keepFollowed(
  db: Queryable,
  siteId: string,
  addresses: readonly string[],
): Promise<void> {
  await db.query('DELETE FROM followed_addresses WHERE site_id = $1 AND NOT address = ANY($2)', [
    siteId,
    addresses,
  ])
}
