import { maybeOne, type Queryable } from '#server/platform'
import { type Pieces, portionsOfPieces } from './store'

/** What a file that comes in several requests is to become part of: a site, or what is brought in. */
export type UploadOf = { readonly siteId: string } | { readonly bringingId: string }

/** The column that names it, and its id. */
const nameOf = (of: UploadOf): readonly ['site_id' | 'bringing_id', string] =>
  'siteId' in of ? ['site_id', of.siteId] : ['bringing_id', of.bringingId]

/** A file that comes in several requests and is not whole yet. */
interface Partial {
  readonly receivedBytes: number
  readonly portions: number
  readonly isTaken: boolean
}

function find(db: Queryable, of: UploadOf, id: string): Promise<Partial | null> {
  const [column, whose] = nameOf(of)
  return maybeOne<Partial>(
    db,
    `SELECT received_bytes::float8 AS "receivedBytes", portions, is_taken AS "isTaken"
     FROM uploads WHERE ${column} = $1 AND id = $2`,
    [whose, id],
  )
}

/** How many bytes of a file are here already. */
export const receivedBytes = async (db: Queryable, of: UploadOf, id: string): Promise<number> =>
  (await find(db, of, id))?.receivedBytes ?? 0

/** Whether all of a file came and was taken. */
export const isTaken = async (db: Queryable, of: UploadOf, id: string): Promise<boolean> =>
  (await find(db, of, id))?.isTaken ?? false

/** How many bytes have come of all files that are not whole yet. */
export async function pendingBytes(db: Queryable, of: UploadOf): Promise<number> {
  const [column, whose] = nameOf(of)
  const row = await maybeOne<{ bytes: number }>(
    db,
    `SELECT coalesce(sum(received_bytes), 0)::float8 AS bytes FROM uploads WHERE ${column} = $1 AND NOT is_taken`,
    [whose],
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
  of: UploadOf,
  id: string,
  from: number,
  body: Pieces,
): Promise<number> {
  const [column, whose] = nameOf(of)
  await db.query(`INSERT INTO uploads (id, ${column}) VALUES ($1, $2) ON CONFLICT (id) DO NOTHING`, [
    id,
    whose,
  ])
  let at = from
  for await (const bytes of portionsOfPieces(body)) {
    if (bytes.length === 0) break
    // Both or neither, and by one request alone: whoever comes second finds another number of bytes.
    const { rowCount } = await db.query(
      `WITH moved AS (
         UPDATE uploads SET received_bytes = received_bytes + $4, portions = portions + 1, touched_at = now()
         WHERE id = $1 AND ${column} = $2 AND received_bytes = $3 AND NOT is_taken RETURNING portions - 1 AS position)
       INSERT INTO blob_portions (content, position, bytes) SELECT $1, position, $5 FROM moved`,
      [id, whose, at, bytes.length, bytes],
    )
    if (rowCount === 0) break
    at += bytes.length
  }
  return receivedBytes(db, of, id)
}

/** What has come of a file, in pieces; null where some of it is not here any more. */
export async function openPartial(db: Queryable, of: UploadOf, id: string): Promise<Pieces | null> {
  const partial = await find(db, of, id)
  if (!partial || partial.isTaken) return null
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
export async function dropPartial(db: Queryable, of: UploadOf, id: string): Promise<void> {
  const [column, whose] = nameOf(of)
  const { rowCount } = await db.query(`DELETE FROM uploads WHERE ${column} = $1 AND id = $2`, [whose, id])
  if (rowCount) await db.query('DELETE FROM blob_portions WHERE content = $1', [id])
}

/** The same of a file that was taken, which goes on being known for as long as somebody may ask for it again. */
export async function notePartialTaken(db: Queryable, of: UploadOf, id: string): Promise<void> {
  const [column, whose] = nameOf(of)
  const { rowCount } = await db.query(`UPDATE uploads SET is_taken = true WHERE ${column} = $1 AND id = $2`, [
    whose,
    id,
  ])
  if (rowCount) await db.query('DELETE FROM blob_portions WHERE content = $1', [id])
}

/** Files of which nothing has come for so long; what came of them is collected like any portion. */
export async function deleteOldPartials(db: Queryable, afterHours: number): Promise<void> {
  await db.query('DELETE FROM uploads WHERE touched_at < now() - make_interval(hours => $1)', [afterHours])
}
