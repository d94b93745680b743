import type { ListedFile, RecordedFile } from '#core/delivery'
import { recordAddresses } from '#server/sites'
import { heldByOthers } from './hold-rows'
import { many, maybeOne, type Queryable } from '#server/platform'

export type DeliveryState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

/** One upload and how it stands. */
export interface Delivery {
  readonly id: string
  readonly destinationId: string
  readonly state: DeliveryState
  readonly revision: number
  readonly removeLeftovers: boolean
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
  readonly removedCount: number
  readonly cancelAsked: boolean
  readonly errorCode: string | null
  readonly errorMessage: string | null
  /** How often a worker has taken it up. */
  readonly attempts: number
  /** Whether it goes on by itself after a cut. */
  readonly goesOn: boolean
  /** How often it was cut. */
  readonly cuts: number
  /** When it goes on; null while it has not been cut, or is under way. */
  readonly goOnAt: Date | null
  readonly askedAt: Date
  readonly startedAt: Date | null
  readonly endedAt: Date | null
}

const deliveryColumns = `id, destination_id AS "destinationId", state, attempts, goes_on AS "goesOn", cuts,
  go_on_at AS "goOnAt",
  coalesce(sent_revision, revision) AS revision, remove_leftovers AS "removeLeftovers",
  file_total AS "fileTotal", byte_total AS "byteTotal", file_count AS "fileCount", byte_count AS "byteCount",
  removed_count AS "removedCount", cancel_asked AS "cancelAsked", error_code AS "errorCode",
  error_message AS "errorMessage", asked_at AS "askedAt", started_at AS "startedAt", ended_at AS "endedAt"`

export const listDeliveries = (db: Queryable, destinationId: string, limit: number): Promise<Delivery[]> =>
  many<Delivery>(
    db,
    `SELECT ${deliveryColumns} FROM deliveries WHERE destination_id = $1 ORDER BY asked_at DESC LIMIT $2`,
    [destinationId, limit],
  )

/** A delivery of a site, or null. */
export const findDelivery = (db: Queryable, id: string, siteId: string): Promise<Delivery | null> =>
  maybeOne<Delivery>(
    db,
    `SELECT ${deliveryColumns} FROM deliveries
     WHERE id = $1 AND destination_id IN (SELECT id FROM destinations WHERE site_id = $2)`,
    [id, siteId],
  )

/**
 * Asks for a delivery; null when one to that destination is under way.
 * @param goesOn whether it goes on by itself after a cut
 */
export const insertDelivery = (
  db: Queryable,
  destinationId: string,
  revision: number,
  removeLeftovers: boolean,
  goesOn = false,
): Promise<{ id: string } | null> =>
  maybeOne<{ id: string }>(
    db,
    `INSERT INTO deliveries (destination_id, state, revision, remove_leftovers, goes_on)
     VALUES ($1, 'waiting', $2, $3, $4) ON CONFLICT DO NOTHING RETURNING id`,
    [destinationId, revision, removeLeftovers, goesOn],
  )

/** Seconds a worker's claim holds without being renewed. */
const leaseSeconds = 10
/** A delivery that was taken up this often and never ended itself has ended its workers. */
const mostAttempts = 5

/** A delivery with all a worker needs to know of its site. */
export interface ClaimedDelivery extends Delivery {
  readonly siteId: string
  readonly accountId: string
}

const claimable = `((state = 'waiting' AND coalesce(go_on_at <= now(), true)) OR (state = 'running' AND lease_until < now()))`

/**
 * Takes a delivery that waits, or whose worker has not renewed its lease: the one asked for, or, for
 * null, the oldest that is free now (one whose destination somebody works at is passed over). Null
 * when there is none, or another has it.
 */
export const claimDelivery = (
  db: Queryable,
  id: string | null,
  worker: string,
): Promise<ClaimedDelivery | null> =>
  maybeOne<ClaimedDelivery>(
    db,
    `UPDATE deliveries SET state = 'running', worker = $2, attempts = attempts + 1,
       lease_until = now() + make_interval(secs => ${leaseSeconds}), started_at = coalesce(started_at, now()),
       go_on_at = NULL
     WHERE id = (
       SELECT d.id FROM deliveries d JOIN destinations a ON a.id = d.destination_id
       WHERE ${claimable} AND ($1::uuid IS NULL OR d.id = $1)
         AND NOT ${heldByOthers('d.id')}
       ORDER BY d.asked_at FOR UPDATE OF d SKIP LOCKED LIMIT 1)
     RETURNING ${deliveryColumns},
       (SELECT site_id FROM destinations WHERE id = destination_id) AS "siteId",
       (SELECT account_id FROM sites WHERE id = (SELECT site_id FROM destinations WHERE id = destination_id)) AS "accountId"`,
    [id, worker],
  )

/** Puts a claimed delivery back among those that wait: the place it goes to is held by another. */
export async function releaseDelivery(db: Queryable, id: string, worker: string): Promise<void> {
  await db.query(
    `UPDATE deliveries SET state = 'waiting', worker = NULL, lease_until = NULL, attempts = attempts - 1
     WHERE id = $1 AND worker = $2 AND state = 'running'`,
    [id, worker],
  )
}

export const hasNoAttemptsLeft = (delivery: Delivery): boolean => delivery.attempts > mostAttempts

export interface DeliveryProgress {
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
}

/**
 * Writes how far a delivery is and renews the lease.
 * @returns whether its author asked to cancel; null when another worker has taken it over
 */
export async function renewDelivery(
  db: Queryable,
  id: string,
  worker: string,
  progress: DeliveryProgress,
): Promise<{ cancelAsked: boolean } | null> {
  return maybeOne<{ cancelAsked: boolean }>(
    db,
    `UPDATE deliveries SET file_total = $3, byte_total = $4, file_count = $5, byte_count = $6,
       lease_until = now() + make_interval(secs => ${leaseSeconds})
     WHERE id = $1 AND worker = $2 AND state = 'running' RETURNING cancel_asked AS "cancelAsked"`,
    [id, worker, progress.fileTotal, progress.byteTotal, progress.fileCount, progress.byteCount],
  )
}

export async function endDelivery(
  db: Queryable,
  id: string,
  worker: string,
  end: { state: DeliveryState; removedCount: number; errorCode: string | null; errorMessage: string | null },
): Promise<void> {
  await db.query(
    `UPDATE deliveries SET state = $3, removed_count = $4, error_code = $5, error_message = $6, ended_at = now(),
       lease_until = NULL, cancel_asked = cancel_asked OR $3 = 'cancelled'
     WHERE id = $1 AND worker = $2 AND state = 'running'`,
    [id, worker, end.state, end.removedCount, end.errorCode, end.errorMessage],
  )
}

/** How long a cut delivery waits before it goes on, by how often it was cut before; the last of these from then on. */
const pausesSeconds = [5, 10, 20, 40, 60, 120, 300]
/** Hours after it was asked for in which it goes on. */
const goesOnHours = 24

/**
 * Puts a delivery that was cut back among those that wait, to go on by itself in a while.
 * @returns false where it is not to, or has tried for a day, or is another worker's by now
 */
export const goOnLater = async (
  db: Queryable,
  { id, cuts }: Pick<Delivery, 'id' | 'cuts'>,
  worker: string,
  error: { readonly code: string; readonly message: string },
): Promise<boolean> =>
  (await maybeOne(
    db,
    `UPDATE deliveries SET state = 'waiting', worker = NULL, lease_until = NULL, attempts = 0, cuts = cuts + 1,
       error_code = $3, error_message = $4, go_on_at = now() + make_interval(secs => $5)
     WHERE id = $1 AND worker = $2 AND state = 'running' AND goes_on AND NOT cancel_asked
       AND asked_at > now() - make_interval(hours => ${goesOnHours}) RETURNING 1`,
    [id, worker, error.code, error.message, pausesSeconds[Math.min(cuts, pausesSeconds.length - 1)]],
  )) !== null

/** Has a delivery that waits to go on do so now. */
export async function goOnNow(db: Queryable, id: string): Promise<void> {
  await db.query("UPDATE deliveries SET go_on_at = now() WHERE id = $1 AND state = 'waiting'", [id])
}

/** Asks a delivery to stop; one that has not begun ends at once. */
export async function cancelDelivery(db: Queryable, id: string): Promise<void> {
  await db.query(
    `UPDATE deliveries SET cancel_asked = true,
       ended_at = CASE WHEN state = 'waiting' THEN now() END,
       state = CASE WHEN state = 'waiting' THEN 'cancelled' ELSE state END
     WHERE id = $1 AND state IN ('waiting', 'running')`,
    [id],
  )
}

/** Notes which revision is being sent: the site as the worker found it. */
export async function noteSentRevision(db: Queryable, id: string, revision: number): Promise<void> {
  await db.query('UPDATE deliveries SET sent_revision = $2 WHERE id = $1', [id, revision])
}

/** A file that has been sent, with what the host then said of it. */
export interface SentFile {
  readonly path: string
  readonly hash: string
  readonly sizeBytes: number
  readonly modifiedSeconds: number | null
  /** The page whose address this is; null for other files. */
  readonly pageId: string | null
}

/** How statements take a list of sent files as `$2`. */
const sentRows = `jsonb_to_recordset($2) AS t(path text, hash text, "sizeBytes" bigint, "modifiedSeconds" bigint, "pageId" uuid)`

/**
 * Writes what was sent: into the delivery's record, the latest state, what is known to be there, and
 * the addresses that are out in the world.
 */
export async function recordSent(
  db: Queryable,
  deliveryId: string,
  destinationId: string,
  files: readonly SentFile[],
): Promise<void> {
  if (files.length === 0) return
  await db.query(
    `INSERT INTO delivery_files (delivery_id, path, hash, size_bytes) SELECT $1, path, hash, "sizeBytes" FROM ${sentRows}
     ON CONFLICT (delivery_id, path) DO UPDATE SET hash = excluded.hash, size_bytes = excluded.size_bytes, sent_at = now()`,
    [deliveryId, JSON.stringify(files)],
  )
  await recordThere(db, destinationId, files)
}

/** Writes that these files are known to be at the destination with these contents. */
export async function recordThere(
  db: Queryable,
  destinationId: string,
  files: readonly SentFile[],
): Promise<void> {
  if (files.length === 0) return
  const json = JSON.stringify(files)
  await db.query(
    `INSERT INTO delivered_files SELECT $1, path, hash, "sizeBytes", "modifiedSeconds" FROM ${sentRows}
     ON CONFLICT (destination_id, path) DO UPDATE SET hash = excluded.hash, size_bytes = excluded.size_bytes,
       modified_seconds = excluded.modified_seconds`,
    [destinationId, json],
  )
  await db.query(
    `INSERT INTO listed_files SELECT $1, path, "sizeBytes", "modifiedSeconds" FROM ${sentRows}
     ON CONFLICT (destination_id, path) DO UPDATE SET size_bytes = excluded.size_bytes, modified_seconds = excluded.modified_seconds`,
    [destinationId, json],
  )
  await recordAddresses(
    db,
    destinationId,
    files.flatMap(({ pageId, path }) => (pageId === null ? [] : [{ pageId, path }])),
  )
}

/** Writes that these files are no longer at the destination. */
export async function recordRemoved(
  db: Queryable,
  destinationId: string,
  paths: readonly string[],
): Promise<void> {
  for (const table of ['delivered_files', 'listed_files'])
    await db.query(`DELETE FROM ${table} WHERE destination_id = $1 AND path = ANY($2)`, [
      destinationId,
      paths,
    ])
}

/** Replaces what was last seen at a destination. */
export async function replaceListing(
  db: Queryable,
  destinationId: string,
  files: readonly ListedFile[],
): Promise<void> {
  await db.query('DELETE FROM listed_files WHERE destination_id = $1', [destinationId])
  await db.query(
    `INSERT INTO listed_files SELECT $1, path, "sizeBytes", "modifiedSeconds"
     FROM jsonb_to_recordset($2) AS t(path text, "sizeBytes" bigint, "modifiedSeconds" bigint)`,
    [destinationId, JSON.stringify(files)],
  )
  await db.query('UPDATE destinations SET listed_at = now() WHERE id = $1', [destinationId])
}

export const listRecorded = (db: Queryable, destinationId: string): Promise<RecordedFile[]> =>
  many<RecordedFile>(
    db,
    `SELECT path, hash, size_bytes AS "sizeBytes", modified_seconds AS "modifiedSeconds" FROM delivered_files WHERE destination_id = $1`,
    [destinationId],
  )

export const listListed = (db: Queryable, destinationId: string): Promise<ListedFile[]> =>
  many<ListedFile>(
    db,
    `SELECT path, size_bytes AS "sizeBytes", modified_seconds AS "modifiedSeconds" FROM listed_files WHERE destination_id = $1`,
    [destinationId],
  )
