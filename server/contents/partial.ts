import { maybeOne, type Queryable } from '#server/platform'
import { type Pieces, portionsOfPieces } from './store'

/** A file that comes in several requests and is not whole yet. */
interface Partial {
  readonly receivedBytes: number
  readonly portions: number
}

const find = (db: Queryable, siteId: string, id: string): Promise<Partial | null> =>
  maybeOne<Partial>(
    db,
    `SELECT received_bytes::float8 AS "receivedBytes", portions FROM uploads WHERE site_id = $1 AND id = $2`,
    [siteId, id],
  )

/** How many bytes of a file are here already. */
export const receivedBytes = async (db: Queryable, siteId: string, id: string): Promise<number> =>
  (await find(db, siteId, id))?.receivedBytes ?? 0

/** How many bytes have come of all files of a site that are not whole yet. */
export async function pendingBytes(db: Queryable, siteId: string): Promise<number> {
  const row = await maybeOne<{ bytes: number }>(
    db,
    'SELECT coalesce(sum(received_bytes), 0)::float8 AS bytes FROM uploads WHERE site_id = $1',
    [siteId],
  )
  return row!.bytes
}

/**
 * Adds to a file that comes in several requests. Each portion is kept as it is there, so a cut loses no more
 * than one; what does not follow on what is here is left.
 * @param from how many bytes came before these
 * @returns how many bytes are here now
 */
export async function addPortions(
  db: Queryable,
  siteId: string,
  id: string,
  from: number,
  body: Pieces,
): Promise<number> {
  await db.query('INSERT INTO uploads (id, site_id) VALUES ($1, $2) ON CONFLICT (id) DO NOTHING', [
    id,
    siteId,
  ])
  let at = from
  for await (const bytes of portionsOfPieces(body)) {
    if (bytes.length === 0) break
    // Both or neither, and by one request alone: whoever comes second finds another number of bytes.
    const { rowCount } = await db.query(
      `WITH moved AS (
         UPDATE uploads SET received_bytes = received_bytes + $4, portions = portions + 1, touched_at = now()
         WHERE id = $1 AND site_id = $2 AND received_bytes = $3 RETURNING portions - 1 AS position)
       INSERT INTO blob_portions (content, position, bytes) SELECT $1, position, $5 FROM moved`,
      [id, siteId, at, bytes.length, bytes],
    )
    if (rowCount === 0) break
    at += bytes.length
  }
  return receivedBytes(db, siteId, id)
}

/** What has come of a file, in pieces; null where some of it is not here any more. */
export async function openPartial(db: Queryable, siteId: string, id: string): Promise<Pieces | null> {
  const partial = await find(db, siteId, id)
  if (!partial) return null
  const kept = await maybeOne<{ bytes: number }>(
    db,
    'SELECT coalesce(sum(length(bytes)), 0)::float8 AS bytes FROM blob_portions WHERE content = $1',
    [id],
  )
  if (kept?.bytes !== partial.receivedBytes) return null
  async function* pieces() {
    for (let position = 0; position < partial!.portions; position++) {
      const row = await maybeOne<{ bytes: Buffer }>(
        db,
        'SELECT bytes FROM blob_portions WHERE content = $1 AND position = $2',
        [id, position],
      )
      if (row) yield row.bytes
    }
  }
  return pieces()
}

/** Lets go of what has come of a file: it is whole and kept, or not wanted. */
export async function dropPartial(db: Queryable, siteId: string, id: string): Promise<void> {
  const { rowCount } = await db.query('DELETE FROM uploads WHERE site_id = $1 AND id = $2', [siteId, id])
  if (rowCount) await db.query('DELETE FROM blob_portions WHERE content = $1', [id])
}

/** Files of which nothing has come for so long; what came of them is collected like any portion. */
export async function deleteOldPartials(db: Queryable, afterHours: number): Promise<void> {
  await db.query('DELETE FROM uploads WHERE touched_at < now() - make_interval(hours => $1)', [afterHours])
}
