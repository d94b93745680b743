import type { ListedFile, RecordedFile } from '#core/delivery'
import { many, type Queryable } from '#server/platform'
import { recordAddresses } from '#server/sites'

/** A file that is known to be at a destination, with what the host says of it. */
export interface SentFile {
  readonly path: string
  readonly hash: string
  readonly sizeBytes: number
  readonly modifiedSeconds: number | null
  /** The page whose address this is; null for other files. */
  readonly pageId: string | null
}

/** How statements take a list of sent files as `$2`. */
export const sentRows = `jsonb_to_recordset($2) AS t(path text, hash text, "sizeBytes" bigint, "modifiedSeconds" bigint, "pageId" uuid)`

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
