import { maybeOne, type Queryable } from '#server/platform'

/** Seconds a hold lasts without being renewed. */
const holdSeconds = 10

/** Whether one folder is the other, or holds it. */
const overlap = `(a.folder = b.folder OR a.folder = '' OR b.folder = ''
  OR starts_with(a.folder, b.folder || '/') OR starts_with(b.folder, a.folder || '/'))`

/** Whether anybody else holds the destination `a` or one in the same place; `holder` is an expression. */
export const heldByOthers = (holder: string): string => `EXISTS (
  SELECT 1 FROM destination_holds h JOIN destinations b ON b.id = h.destination_id
    JOIN web_hosts theirs ON theirs.id = b.web_host_id JOIN web_hosts ours ON ours.id = a.web_host_id
  WHERE theirs.host = ours.host AND (theirs.port = ours.port OR theirs.protocol <> ours.protocol)
    AND theirs.account = ours.account AND ${overlap}
    AND h.held_until > now() AND h.holder <> ${holder})`

/**
 * Takes a destination for work that lists, sends or sweeps there. Refused while somebody else holds
 * it, or any other destination whose folder is the same, above or below on the same account of the
 * same host, whoever's it is: one at a time in one place. The caller owns a transaction.
 */
export async function takeHold(db: Queryable, destinationId: string, holder: string): Promise<boolean> {
  // Two that ask for one place at once are let in one after the other.
  await db.query(
    `SELECT pg_advisory_xact_lock(hashtextextended(host || chr(10) || account, 46004))
     FROM web_hosts WHERE id = (SELECT web_host_id FROM destinations WHERE id = $1)`,
    [destinationId],
  )
  const row = await maybeOne(
    db,
    `INSERT INTO destination_holds (destination_id, holder, held_until)
     SELECT a.id, $2, now() + make_interval(secs => ${holdSeconds}) FROM destinations a
     WHERE a.id = $1 AND NOT ${heldByOthers('$2')}
     ON CONFLICT (destination_id) DO UPDATE SET holder = excluded.holder, held_until = excluded.held_until
     RETURNING 1`,
    [destinationId, holder],
  )
  return row !== null
}

/** Keeps a hold; false when it ran out and another has taken it. */
export const renewHold = async (db: Queryable, destinationId: string, holder: string): Promise<boolean> =>
  (await maybeOne(
    db,
    `UPDATE destination_holds SET held_until = now() + make_interval(secs => ${holdSeconds})
     WHERE destination_id = $1 AND holder = $2 RETURNING 1`,
    [destinationId, holder],
  )) !== null

export async function releaseHold(db: Queryable, destinationId: string, holder: string): Promise<void> {
  await db.query('DELETE FROM destination_holds WHERE destination_id = $1 AND holder = $2', [
    destinationId,
    holder,
  ])
}

/**
 * Locks a destination's row and tells whether work at it is under way, waiting included: then it is
 * not changed. The caller owns a transaction.
 */
export async function isBusy(db: Queryable, destinationId: string): Promise<boolean> {
  await db.query('SELECT 1 FROM destinations WHERE id = $1 FOR UPDATE', [destinationId])
  const row = await maybeOne<{ busy: boolean }>(
    db,
    `SELECT EXISTS (SELECT 1 FROM deliveries WHERE destination_id = $1 AND state IN ('waiting', 'running'))
       OR EXISTS (SELECT 1 FROM destination_holds WHERE destination_id = $1 AND held_until > now()) AS busy`,
    [destinationId],
  )
  return row?.busy === true
}
