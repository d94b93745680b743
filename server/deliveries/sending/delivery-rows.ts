import { nameOf } from '#server/accounts'
import { heldByOthers } from '../places/hold-rows'
import { many, maybeOne, type Queryable } from '#server/platform'
import { settleItems } from './item-rows'

export type DeliveryState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

/** One upload and how it stands. */
export interface Delivery {
  readonly id: string
  readonly destinationId: string
  readonly state: DeliveryState
  /** The site's revision that it sends. */
  readonly revision: number
  readonly removeLeftovers: boolean
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
  readonly removedCount: number
  readonly cancelAsked: boolean
  readonly pauseAsked: boolean
  /** Whether it waits for its author to let it go on. */
  readonly paused: boolean
  /** Files that somebody else had changed there, which its author had not seen: left as they were. */
  readonly heldCount: number
  /** The delivery whose state it puts back. */
  readonly putBack: string | null
  /** Whether it went to another place than the destination is now. */
  readonly elsewhere: boolean
  readonly errorCode: string | null
  readonly errorMessage: string | null
  /** How often a worker has taken it up. */
  readonly attempts: number
  /** Whether it goes on by itself after a cut. */
  readonly goesOn: boolean
  /** How often it was cut. */
  readonly cuts: number
  /** When it begins, or goes on after a cut; null where that is at once. */
  readonly goOnAt: Date | null
  readonly askedAt: Date
  /** What whoever asked for it is known by; null where the account is gone. */
  readonly askedByName: string | null
  readonly startedAt: Date | null
  readonly endedAt: Date | null
}

/** Bytes that have gone out of files of a delivery that are not complete yet, by whoever works on it as it was last said. */
const bytesOutOf = (id: string, who = 'true'): string =>
  `coalesce((SELECT sum(bytes_out)::bigint FROM delivery_workers w WHERE w.delivery_id = ${id} AND w.until > now() AND ${who}), 0)`

const deliveryColumns = `id, destination_id AS "destinationId", state, attempts, goes_on AS "goesOn", cuts,
  go_on_at AS "goOnAt", pause_asked AS "pauseAsked", paused, held_count AS "heldCount", put_back AS "putBack", elsewhere, revision, remove_leftovers AS "removeLeftovers",
  file_total AS "fileTotal", byte_total AS "byteTotal", file_count AS "fileCount",
  byte_count + CASE state WHEN 'running' THEN ${bytesOutOf('deliveries.id')} ELSE 0 END AS "byteCount",
  removed_count AS "removedCount", cancel_asked AS "cancelAsked", error_code AS "errorCode",
  error_message AS "errorMessage", asked_at AS "askedAt",
  (SELECT ${nameOf('a')} FROM accounts a WHERE a.id = asked_by) AS "askedByName", started_at AS "startedAt", ended_at AS "endedAt"`

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

/** What is asked for with a delivery, beside its files. */
export interface AskedDelivery {
  readonly destinationId: string
  readonly revision: number
  /** Whether what earlier deliveries left there and it does not hold is removed. */
  readonly removeLeftovers: boolean
  /** Whether it goes on by itself after a cut. */
  readonly goesOn: boolean
  /** When it begins; null for at once. */
  readonly beginAt: Date | null
  /** The delivery whose state it puts back. */
  readonly putBack: string | null
  /** The account that asked. */
  readonly askedBy: string
}

/** Asks for a delivery; null when one to that destination is under way. */
export const insertDelivery = (db: Queryable, asked: AskedDelivery): Promise<{ id: string } | null> =>
  maybeOne<{ id: string }>(
    db,
    `INSERT INTO deliveries (destination_id, state, revision, remove_leftovers, goes_on, go_on_at, put_back, asked_by)
     VALUES ($1, 'waiting', $2, $3, $4, $5, $6, $7) ON CONFLICT DO NOTHING RETURNING id`,
    [
      asked.destinationId,
      asked.revision,
      asked.removeLeftovers,
      asked.goesOn,
      asked.beginAt,
      asked.putBack,
      asked.askedBy,
    ],
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

const claimedColumns = `(SELECT site_id FROM destinations WHERE id = destination_id) AS "siteId",
  (SELECT account_id FROM sites WHERE id = (SELECT site_id FROM destinations WHERE id = destination_id)) AS "accountId"`

const claimable = `((state = 'waiting' AND NOT paused AND coalesce(go_on_at <= now(), true)) OR (state = 'running' AND lease_until < now()))`

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
       go_on_at = NULL, planned = false, pause_asked = false
     WHERE id = (
       SELECT d.id FROM deliveries d JOIN destinations a ON a.id = d.destination_id
       WHERE ${claimable} AND ($1::uuid IS NULL OR d.id = $1)
         AND NOT ${heldByOthers('d.id')}
       ORDER BY d.asked_at FOR UPDATE OF d SKIP LOCKED LIMIT 1)
     RETURNING ${deliveryColumns},
       ${claimedColumns}`,
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

/** What a worker has done since it last said so. */
export interface DeliveryWork {
  readonly fileCount: number
  readonly byteCount: number
  readonly removedCount: number
  /** Bytes that have gone out of files that are not complete yet. */
  readonly bytesOut: number
}

/** How a delivery stands for those who work on it. */
export interface DeliveryStand {
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
  readonly cancelAsked: boolean
  readonly pauseAsked: boolean
}

/**
 * Adds what a worker has done and keeps its part in the delivery; whoever leads it renews the lease with it.
 * @returns null when the delivery is another's to lead by now, or has ended
 */
export async function renewDelivery(
  db: Queryable,
  id: string,
  worker: string,
  leads: boolean,
  { fileCount, byteCount, removedCount, bytesOut }: DeliveryWork,
): Promise<DeliveryStand | null> {
  const stand = await maybeOne<DeliveryStand>(
    db,
    `UPDATE deliveries SET file_count = file_count + $3, byte_count = byte_count + $4, removed_count = removed_count + $5
       ${leads ? `, lease_until = now() + make_interval(secs => ${leaseSeconds})` : ''}
     WHERE id = $1 AND state = 'running' AND ${leads ? 'worker = $2' : 'planned AND worker <> $2'}
     RETURNING file_total AS "fileTotal", byte_total AS "byteTotal", file_count AS "fileCount",
       byte_count + $6 + ${bytesOutOf('deliveries.id', 'w.worker <> $2')} AS "byteCount", cancel_asked AS "cancelAsked", pause_asked AS "pauseAsked"`,
    [id, worker, fileCount, byteCount, removedCount, bytesOut],
  )
  if (stand) await joinDelivery(db, id, worker, bytesOut)
  return stand
}

/** Seconds a worker's part in a delivery holds without being renewed. */
const partSeconds = 5

/** Says that a worker works on a delivery: what it takes is its own for as long as it says so. */
export async function joinDelivery(db: Queryable, id: string, worker: string, bytesOut = 0): Promise<void> {
  await db.query(
    `INSERT INTO delivery_workers (delivery_id, worker, until, bytes_out)
     VALUES ($1, $2, now() + make_interval(secs => ${partSeconds}), $3)
     ON CONFLICT (delivery_id, worker) DO UPDATE SET until = excluded.until, bytes_out = excluded.bytes_out`,
    [id, worker, bytesOut],
  )
}

export async function leaveDelivery(db: Queryable, id: string, worker: string): Promise<void> {
  await db.query('DELETE FROM delivery_workers WHERE delivery_id = $1 AND worker = $2', [id, worker])
}

/** Whether others work on a delivery than the one who leads it now. */
export const hasOtherWorkers = async (db: Queryable, id: string, worker: string): Promise<boolean> =>
  (await maybeOne(
    db,
    'SELECT 1 FROM delivery_workers WHERE delivery_id = $1 AND worker <> $2 AND until > now() LIMIT 1',
    [id, worker],
  )) !== null

/** Says what there is to do, now that it is known what is there: from here on others may help. */
export async function notePlan(
  db: Queryable,
  id: string,
  worker: string,
  { fileTotal, byteTotal, heldCount }: { fileTotal: number; byteTotal: number; heldCount: number },
): Promise<boolean> {
  const { rowCount } = await db.query(
    `UPDATE deliveries SET planned = true, held_count = $5,
       file_total = file_count + $3, byte_total = byte_count + $4
     WHERE id = $1 AND worker = $2 AND state = 'running'`,
    [id, worker, fileTotal, byteTotal, heldCount],
  )
  return rowCount === 1
}

/** Files left to do of which a delivery is helped with, and no more workers than this. */
const helpFromFiles = 200
const mostWorkers = 6

/**
 * A delivery that others lead and that has more to do than they need to be alone with, or null.
 * @param not those that this process works on, or could not help with
 */
export const findToHelp = (db: Queryable, not: readonly string[]): Promise<ClaimedDelivery | null> =>
  maybeOne<ClaimedDelivery>(
    db,
    `SELECT ${deliveryColumns}, ${claimedColumns} FROM deliveries
     WHERE state = 'running' AND planned AND NOT cancel_asked AND NOT pause_asked AND lease_until > now() AND id <> ALL($1)
       AND file_total - file_count > ${helpFromFiles}
       AND (SELECT count(*) FROM delivery_workers w WHERE w.delivery_id = id AND w.until > now()) < ${mostWorkers}
     ORDER BY file_total - file_count DESC LIMIT 1`,
    [not],
  )

export async function endDelivery(
  db: Queryable,
  id: string,
  worker: string,
  end: { state: DeliveryState; errorCode: string | null; errorMessage: string | null },
): Promise<void> {
  await db.query(
    `UPDATE deliveries SET state = $3, error_code = $4, error_message = $5, ended_at = now(),
       lease_until = NULL, cancel_asked = cancel_asked OR $3 = 'cancelled'
     WHERE id = $1 AND worker = $2 AND state = 'running'`,
    [id, worker, end.state, end.errorCode, end.errorMessage],
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

/** Has a delivery that waits, or was paused, go on now. */
export async function goOnNow(db: Queryable, id: string): Promise<void> {
  await db.query(
    `UPDATE deliveries SET go_on_at = CASE WHEN state = 'waiting' THEN now() END, paused = false, pause_asked = false
     WHERE id = $1 AND state IN ('waiting', 'running')`,
    [id],
  )
}

/** Asks a delivery to pause; one that waits does so at once. */
export async function pauseDelivery(db: Queryable, id: string): Promise<void> {
  await db.query(
    `UPDATE deliveries SET pause_asked = state = 'running', paused = state = 'waiting'
     WHERE id = $1 AND state IN ('waiting', 'running')`,
    [id],
  )
}

/** Puts a delivery whose author asked for a pause among those that wait, until it is let go on. */
export async function notePaused(db: Queryable, id: string, worker: string): Promise<void> {
  await db.query(
    `UPDATE deliveries SET state = 'waiting', paused = pause_asked, pause_asked = false, worker = NULL, lease_until = NULL,
       attempts = 0, planned = false WHERE id = $1 AND worker = $2 AND state = 'running'`,
    [id, worker],
  )
}

/** Asks a delivery to stop; one that has not begun, or waits, ends at once, and its record keeps what it did. */
export async function cancelDelivery(db: Queryable, id: string): Promise<void> {
  const row = await maybeOne<{ state: DeliveryState }>(
    db,
    `UPDATE deliveries SET cancel_asked = true,
       ended_at = CASE WHEN state = 'waiting' THEN now() END, paused = false,
       state = CASE WHEN state = 'waiting' THEN 'cancelled' ELSE state END
     WHERE id = $1 AND state IN ('waiting', 'running') RETURNING state`,
    [id],
  )
  if (row?.state === 'cancelled') await settleItems(db, id)
}

/** Whether any site of an account is being sent at this moment. */
export const isSendingFor = async (db: Queryable, accountId: string): Promise<boolean> =>
  (await maybeOne(
    db,
    `SELECT 1 FROM deliveries v JOIN destinations d ON d.id = v.destination_id JOIN sites s ON s.id = d.site_id
     WHERE s.account_id = $1 AND v.state = 'running' LIMIT 1`,
    [accountId],
  )) !== null
