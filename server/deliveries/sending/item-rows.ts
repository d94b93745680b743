import type { Hash } from '#core/site'
import { many, maybeOne, type Queryable } from '#server/platform'
import { recordThere, type SentFile } from '../places/known-rows'

/** State of a file of a delivery; what each means stands in migration 019. */
export type ItemState =
  'frozen' | 'same' | 'found' | 'waiting' | 'taken' | 'sent' | 'removed' | 'tried' | 'held'

/** A file of a delivery, as it was frozen when it was asked for. */
export interface Item {
  readonly path: string
  /** What is to be there; null for one that is to be removed. */
  readonly hash: Hash | null
  readonly sizeBytes: number
  /** The page whose address this is. */
  readonly pageId: string | null
  /** When it is sent, of `stepOf`. */
  readonly step: number
  /** Whether its author saw that it replaces what somebody else put there. */
  readonly replaces: boolean
}

export interface ItemRow extends Item {
  readonly state: ItemState
  /** Whether anybody has begun to send it: then what is there may be ours. */
  readonly begun: boolean
}

const itemColumns = 'path, hash, size_bytes AS "sizeBytes", page_id AS "pageId", step, replaces'

export async function insertItems(db: Queryable, deliveryId: string, items: readonly Item[]): Promise<void> {
  await db.query(
    `INSERT INTO delivery_files (delivery_id, path, hash, size_bytes, page_id, step, replaces)
     SELECT $1, path, hash, "sizeBytes", "pageId", step, replaces FROM jsonb_to_recordset($2)
       AS t(path text, hash text, "sizeBytes" bigint, "pageId" uuid, step smallint, replaces boolean)
     ON CONFLICT (delivery_id, path) DO NOTHING`,
    [deliveryId, JSON.stringify(items)],
  )
}

export const listItems = (db: Queryable, deliveryId: string): Promise<ItemRow[]> =>
  many<ItemRow>(
    db,
    `SELECT ${itemColumns}, state, begun FROM delivery_files WHERE delivery_id = $1 ORDER BY step, path`,
    [deliveryId],
  )

/** Writes what there is to do with files of a delivery, now that it is known what is there. */
export async function planItems(
  db: Queryable,
  deliveryId: string,
  states: readonly { readonly path: string; readonly state: ItemState }[],
): Promise<void> {
  await db.query(
    `UPDATE delivery_files f SET state = t.state, worker = NULL
     FROM jsonb_to_recordset($2) AS t(path text, state text)
     WHERE f.delivery_id = $1 AND f.path = t.path`,
    [deliveryId, JSON.stringify(states)],
  )
}

/**
 * Takes files of the step that is at hand, which is the first that is not complete: those that wait, and those whose
 * worker is gone. Two workers never get the same one.
 */
export const takeItems = (db: Queryable, deliveryId: string, worker: string, most: number): Promise<Item[]> =>
  many<Item>(
    db,
    `UPDATE delivery_files SET state = 'taken', worker = $2, begun = true WHERE delivery_id = $1 AND path IN (
       SELECT path FROM delivery_files f
       WHERE delivery_id = $1 AND state IN ('waiting', 'taken')
         AND step = (SELECT min(step) FROM delivery_files WHERE delivery_id = $1 AND state IN ('waiting', 'taken'))
         AND (state = 'waiting' OR worker <> $2 AND NOT EXISTS (SELECT 1 FROM delivery_workers w
           WHERE w.delivery_id = $1 AND w.worker = f.worker AND w.until > now()))
       ORDER BY path LIMIT $3 FOR UPDATE SKIP LOCKED)
     RETURNING ${itemColumns}`,
    [deliveryId, worker, most],
  )

/** Whether anything of a delivery is still to be done, by anybody. */
export const isOpen = async (db: Queryable, deliveryId: string): Promise<boolean> =>
  (await maybeOne(
    db,
    `SELECT 1 FROM delivery_files WHERE delivery_id = $1 AND state IN ('waiting', 'taken') LIMIT 1`,
    [deliveryId],
  )) !== null

/** Lets go of what a worker took and did not do. */
export async function putBackItems(db: Queryable, deliveryId: string, worker: string): Promise<void> {
  await db.query(
    `UPDATE delivery_files SET state = 'waiting', worker = NULL WHERE delivery_id = $1 AND worker = $2 AND state = 'taken'`,
    [deliveryId, worker],
  )
}

/**
 * Writes what a worker has sent: into the delivery's record, and as what is known to be there.
 * @returns how many were its own to send, and their bytes
 */
export async function recordSent(
  db: Queryable,
  deliveryId: string,
  destinationId: string,
  worker: string,
  files: readonly SentFile[],
): Promise<{ fileCount: number; byteCount: number }> {
  if (files.length === 0) return { fileCount: 0, byteCount: 0 }
  const noted = await many<{ sizeBytes: number }>(
    db,
    `UPDATE delivery_files SET state = 'sent', sent_at = now(), worker = NULL
     WHERE delivery_id = $1 AND path = ANY($2) AND worker = $3 AND state = 'taken' RETURNING size_bytes AS "sizeBytes"`,
    [deliveryId, files.map((file) => file.path), worker],
  )
  await recordThere(db, destinationId, files)
  return { fileCount: noted.length, byteCount: noted.reduce((sum, file) => sum + file.sizeBytes, 0) }
}

/** Writes what a worker has removed. */
export async function noteRemoved(
  db: Queryable,
  deliveryId: string,
  paths: readonly string[],
): Promise<number> {
  const { rowCount } = await db.query(
    `UPDATE delivery_files SET state = 'removed', sent_at = now(), worker = NULL
     WHERE delivery_id = $1 AND path = ANY($2) AND state = 'taken'`,
    [deliveryId, paths],
  )
  return rowCount ?? 0
}

/**
 * Leaves in the record of a delivery that has ended what it did: what it had nothing to do with goes. One that was
 * found as it is to be stays, since no record before it says so.
 */
export async function settleItems(db: Queryable, deliveryId: string): Promise<void> {
  await db.query(
    `UPDATE delivery_files f SET state = 'found' WHERE delivery_id = $1 AND state = 'same' AND NOT EXISTS (
       SELECT 1 FROM delivery_files e JOIN deliveries d ON d.id = e.delivery_id
       WHERE e.hash = f.hash AND e.path = f.path AND e.delivery_id <> $1 AND e.state IN ('sent', 'found')
         AND d.destination_id = (SELECT destination_id FROM deliveries WHERE id = $1))`,
    [deliveryId],
  )
  await db.query(
    `DELETE FROM delivery_files WHERE delivery_id = $1
       AND (state IN ('frozen', 'same') OR (state = 'waiting' AND NOT begun))`,
    [deliveryId],
  )
  await db.query(
    `UPDATE delivery_files SET state = 'tried', worker = NULL WHERE delivery_id = $1 AND state IN ('waiting', 'taken')`,
    [deliveryId],
  )
}

/** What this destination's deliveries have put, or tried to put, at paths: ours, whatever its time there is. */
export async function listTried(
  db: Queryable,
  destinationId: string,
  paths: readonly string[],
): Promise<ReadonlyMap<string, ReadonlySet<Hash>>> {
  const rows = await many<{ path: string; hash: Hash }>(
    db,
    `SELECT DISTINCT f.path, f.hash FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id
     WHERE d.destination_id = $1 AND f.path = ANY($2) AND f.hash IS NOT NULL AND f.begun`,
    [destinationId, paths],
  )
  const tried = new Map<string, Set<Hash>>()
  for (const { path, hash } of rows) tried.set(path, (tried.get(path) ?? new Set()).add(hash))
  return tried
}
