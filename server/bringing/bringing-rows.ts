import type { CorrectedPage, FrameMark, Remark } from '#core/bringing'
import type { Hash } from '#core/site'
import { many, maybeOne, type Queryable } from '#server/platform'

/** A file that waits to be brought in. */
export interface WaitingFile {
  readonly path: string
  readonly hash: Hash
  readonly sizeBytes: number
}

export async function insertBringing(
  db: Queryable,
  accountId: string,
  id: string,
  name: string,
): Promise<void> {
  await db.query('INSERT INTO bringings (id, account_id, name) VALUES ($1, $2, $3)', [id, accountId, name])
}

/** What an author says otherwise than it was found; null as it was found. */
export interface Corrections {
  readonly plan: readonly CorrectedPage[] | null
  /** Where the edges of slots were moved to. */
  readonly marks: readonly FrameMark[] | null
}

/** Files that wait, as a whole. */
export interface Bringing extends Corrections {
  readonly name: string
  /** What did not come with the rest of it, and why. */
  readonly unread: readonly Remark[]
}

/** A bringing; null for one that is not there, or another's. */
export const findBringing = (db: Queryable, accountId: string, id: string): Promise<Bringing | null> =>
  maybeOne<Bringing>(
    db,
    'SELECT name, plan, marks, unread FROM bringings WHERE account_id = $1 AND id = $2',
    [accountId, id],
  )

/** Keeps what its author says otherwise; what is not said stays. @returns whether there is such a bringing */
export async function putCorrections(
  db: Queryable,
  accountId: string,
  id: string,
  { plan, marks }: Partial<Corrections>,
): Promise<boolean> {
  const { rowCount } = await db.query(
    `UPDATE bringings
     SET plan = CASE WHEN $3 THEN $4::jsonb ELSE plan END,
       marks = CASE WHEN $5 THEN $6::jsonb ELSE marks END,
       touched_at = now()
     WHERE account_id = $1 AND id = $2`,
    [
      accountId,
      id,
      plan !== undefined,
      plan ? JSON.stringify(plan) : null,
      marks !== undefined,
      marks ? JSON.stringify(marks) : null,
    ],
  )
  return rowCount === 1
}

/** Of two at one path the later one counts. */
export async function putWaiting(db: Queryable, id: string, files: readonly WaitingFile[]): Promise<void> {
  const byPath = new Map(files.map((file) => [file.path, file]))
  await db.query(
    `INSERT INTO brought_files (bringing_id, path, hash, size_bytes)
     SELECT $1, path, hash, "sizeBytes" FROM jsonb_to_recordset($2) AS t(path text, hash text, "sizeBytes" bigint)
     ON CONFLICT (bringing_id, path) DO UPDATE SET hash = excluded.hash, size_bytes = excluded.size_bytes`,
    [id, JSON.stringify([...byPath.values()])],
  )
  await db.query('UPDATE bringings SET touched_at = now() WHERE id = $1', [id])
}

/** Notes what did not come, in place of what was noted before. */
/** Of what does not come, as many are told. */
const mostUnread = 1_000

/** Adds to what does not come. */
export async function addUnread(db: Queryable, id: string, unread: readonly Remark[]): Promise<void> {
  if (unread.length === 0) return
  await db.query(
    'UPDATE bringings SET unread = unread || $2::jsonb WHERE id = $1 AND jsonb_array_length(unread) < $3',
    [id, JSON.stringify(unread.slice(0, mostUnread)), mostUnread],
  )
}

export const listWaiting = (db: Queryable, id: string): Promise<WaitingFile[]> =>
  many<WaitingFile>(
    db,
    'SELECT path, hash, size_bytes::float8 AS "sizeBytes" FROM brought_files WHERE bringing_id = $1 ORDER BY path',
    [id],
  )

/** How many files wait, and how large they are together. */
export async function weighWaiting(db: Queryable, id: string): Promise<{ files: number; bytes: number }> {
  const row = await maybeOne<{ files: number; bytes: number }>(
    db,
    `SELECT count(*)::float8 AS files, coalesce(sum(size_bytes), 0)::float8 AS bytes
     FROM brought_files WHERE bringing_id = $1`,
    [id],
  )
  return row!
}

export async function deleteBringing(db: Queryable, accountId: string, id: string): Promise<void> {
  await db.query('DELETE FROM bringings WHERE account_id = $1 AND id = $2', [accountId, id])
}

/** What nobody has gone on with for so long. */
export async function deleteOldBringings(db: Queryable, afterHours: number): Promise<void> {
  await db.query('DELETE FROM bringings WHERE touched_at < now() - make_interval(hours => $1)', [afterHours])
}
