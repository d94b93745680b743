import type { Hash } from '#core/site'
import { many, maybeOne, type Queryable } from '#server/platform'
import type { ItemState } from './item-rows'

/** A file as a delivery left it there. */
export interface StateFile {
  readonly path: string
  readonly hash: Hash
  readonly sizeBytes: number
  readonly pageId: string | null
  readonly step: number
}

/**
 * What a destination's deliveries had left there after one of them: of each path what was sent last, without what was
 * removed. What somebody else put there is in no record.
 */
export const stateAfter = (db: Queryable, destinationId: string, deliveryId: string): Promise<StateFile[]> =>
  many<StateFile>(
    db,
    `SELECT path, hash, "sizeBytes", "pageId", step FROM (
       SELECT DISTINCT ON (f.path) f.path, f.hash, f.size_bytes AS "sizeBytes", f.page_id AS "pageId", f.step
       FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id
       WHERE d.destination_id = $1 AND NOT d.elsewhere AND f.state IN ('sent', 'found', 'removed')
         AND d.asked_at <= (SELECT asked_at FROM deliveries WHERE id = $2)
       ORDER BY f.path, d.asked_at DESC
     ) AS latest WHERE hash IS NOT NULL ORDER BY path`,
    [destinationId, deliveryId],
  )

/** A file of a delivery's record. */
export interface RecordLine {
  readonly path: string
  readonly sizeBytes: number
  readonly state: Extract<ItemState, 'sent' | 'found' | 'removed' | 'tried' | 'held'>
}

/** What a delivery did with each file, as far as it is recorded. */
export const recordOf = (db: Queryable, deliveryId: string, most: number): Promise<RecordLine[]> =>
  many<RecordLine>(
    db,
    `SELECT path, size_bytes AS "sizeBytes", state FROM delivery_files
     WHERE delivery_id = $1 AND state IN ('sent', 'removed', 'tried', 'held') ORDER BY step, path LIMIT $2`,
    [deliveryId, most],
  )

/** The paths of what a delivery to a destination sent; none where it is another's. */
export const sentBy = async (db: Queryable, destinationId: string, deliveryId: string): Promise<string[]> =>
  (
    await many<{ path: string }>(
      db,
      `SELECT f.path FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id
       WHERE d.id = $2 AND d.destination_id = $1 AND f.state = 'sent'`,
      [destinationId, deliveryId],
    )
  ).map(({ path }) => path)

/** The hash of what a delivery left at a path; null where nothing was. */
export const hashAfter = async (
  db: Queryable,
  destinationId: string,
  deliveryId: string,
  path: string,
): Promise<Hash | null> =>
  (
    await maybeOne<{ hash: Hash | null }>(
      db,
      `SELECT f.hash FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id
       WHERE d.destination_id = $1 AND NOT d.elsewhere AND f.path = $3 AND f.state IN ('sent', 'found', 'removed')
         AND d.asked_at <= (SELECT asked_at FROM deliveries WHERE id = $2)
       ORDER BY d.asked_at DESC LIMIT 1`,
      [destinationId, deliveryId, path],
    )
  )?.hash ?? null

/** Deliveries of a destination of which every file is kept, so that each of their states can be put back. */
const keptDeliveries = 30

/**
 * Forgets of older deliveries what later ones have replaced: the state after any of the last ones stays whole.
 * @returns how many files of records were forgotten
 */
export async function forgetOldRecords(db: Queryable, most: number): Promise<number> {
  const { rowCount } = await db.query(
    `WITH turns AS (
       SELECT id, destination_id, asked_at, row_number() OVER (PARTITION BY destination_id ORDER BY asked_at DESC) AS turn
       FROM deliveries
     ), old AS (
       SELECT f.delivery_id, f.path, row_number() OVER (PARTITION BY t.destination_id, f.path ORDER BY t.asked_at DESC) AS nth
       FROM turns t JOIN delivery_files f ON f.delivery_id = t.id
       WHERE t.turn > ${keptDeliveries} AND f.state IN ('sent', 'found', 'removed')
     )
     DELETE FROM delivery_files f USING (SELECT delivery_id, path FROM old WHERE nth > 1 LIMIT $1) AS gone
     WHERE f.delivery_id = gone.delivery_id AND f.path = gone.path`,
    [most],
  )
  return rowCount ?? 0
}
