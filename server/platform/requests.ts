import { maybeOne, type Queryable } from './pool'

/**
 * Notes that a request of a window is being made; the caller owns the transaction that makes it, so
 * both are there or neither is. Two of one id at once: the second waits for the first.
 * @returns what the request made when it was made before (null: nothing to tell), or 'new'
 */
export async function noteRequest(
  db: Queryable,
  accountId: string,
  requestId: string,
  result: string | null = null,
): Promise<{ readonly result: string | null } | 'new'> {
  const made = await maybeOne(
    db,
    `INSERT INTO requests_made (account_id, id, result) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING RETURNING 1`,
    [accountId, requestId, result],
  )
  if (made) return 'new'
  return (await requestMade(db, accountId, requestId)) ?? { result: null }
}

/** What a request made, where it was made before; null where it was not. */
export const requestMade = (
  db: Queryable,
  accountId: string,
  requestId: string,
): Promise<{ readonly result: string | null } | null> =>
  maybeOne<{ result: string | null }>(
    db,
    'SELECT result FROM requests_made WHERE account_id = $1 AND id = $2',
    [accountId, requestId],
  )

/** A window asks again within minutes; a closed one when it is opened, within days. */
export async function deleteOldRequests(db: Queryable): Promise<void> {
  await db.query(`DELETE FROM requests_made WHERE made_at < now() - interval '30 days'`)
}

/** Counters of the rate limiter that ran out. */
export async function deleteOldLimits(db: Queryable): Promise<void> {
  await db.query('DELETE FROM rate_limits WHERE expire < $1', [Date.now()])
}
