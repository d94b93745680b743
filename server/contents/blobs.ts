import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'
import { Problem } from '#core/problems'
import { many, type Queryable } from '#server/platform'

/** SHA-256 of bytes or of a text in UTF-8, as the core names contents. */
export const hashOf = (bytes: Buffer | string): Hash => createHash('sha256').update(bytes).digest('hex')

/** Stores contents; what is there already is not stored again. */
export async function putBlobs(db: Queryable, contents: readonly (Buffer | string)[]): Promise<Hash[]> {
  const hashes = contents.map(hashOf)
  const unique = new Map(hashes.map((hash, index) => [hash, contents[index]!]))
  await db.query(
    // One that is there already is young again: it is not collected before what names it is stored.
    `INSERT INTO blobs (hash, bytes) SELECT * FROM unnest($1::text[], $2::bytea[])
     ON CONFLICT (hash) DO UPDATE SET put_at = now()`,
    [
      [...unique.keys()],
      [...unique.values()].map((bytes) => (typeof bytes === 'string' ? Buffer.from(bytes) : bytes)),
    ],
  )
  return hashes
}

/** Stores one content. */
export async function putBlob(db: Queryable, content: Buffer | string): Promise<Hash> {
  return (await putBlobs(db, [content]))[0]!
}

/** Contents by hash; hashes that are not there are left out. */
export async function getBlobs(db: Queryable, hashes: Iterable<Hash>): Promise<Map<Hash, Buffer>> {
  const wanted = [...new Set(hashes)]
  if (wanted.length === 0) return new Map()
  const rows = await many<{ hash: Hash; bytes: Buffer }>(
    db,
    'SELECT hash, bytes FROM blobs WHERE hash = ANY($1)',
    [wanted],
  )
  return new Map(rows.map((row) => [row.hash, row.bytes]))
}

/** Contents by hash, as texts in UTF-8. */
export async function getTexts(db: Queryable, hashes: Iterable<Hash>): Promise<Map<Hash, string>> {
  return new Map([...(await getBlobs(db, hashes))].map(([hash, bytes]) => [hash, bytes.toString('utf8')]))
}

/** Contents that nothing has named for this long are collected; younger ones may be on their way. */
const collectAfterHours = 24

/**
 * Removes some of the contents that no site, step of history, record of a delivery or cache of what was
 * made names any more.
 * @returns how many were removed; 0 when none is left
 */
export async function collectBlobs(
  db: Queryable,
  most: number,
  afterHours = collectAfterHours,
): Promise<number> {
  const result = await db.query(
    `DELETE FROM blobs WHERE put_at < now() - make_interval(hours => $2) AND hash IN (
       SELECT hash FROM blobs b WHERE put_at < now() - make_interval(hours => $2)
         AND NOT EXISTS (SELECT 1 FROM pages WHERE content = b.hash)
         AND NOT EXISTS (SELECT 1 FROM site_files WHERE hash = b.hash)
         AND NOT EXISTS (SELECT 1 FROM templates WHERE source = b.hash)
         AND NOT EXISTS (SELECT 1 FROM history_contents WHERE hash = b.hash)
         AND NOT EXISTS (SELECT 1 FROM delivered_files WHERE hash = b.hash)
         AND NOT EXISTS (SELECT 1 FROM delivery_files WHERE hash = b.hash)
       LIMIT $1)`,
    [most, afterHours],
  )
  return result.rowCount ?? 0
}

/** Texts by hash for who cannot wait; one that is not among them stops the work, and never passes for empty. */
export const textFrom =
  (texts: ReadonlyMap<Hash, string>) =>
  (hash: Hash): string => {
    const text = texts.get(hash)
    if (text === undefined) throw missing()
    return text
  }

/** The same for the bytes of a file. */
export function bytesFrom(contents: ReadonlyMap<Hash, Buffer>, hash: Hash): Buffer {
  const bytes = contents.get(hash)
  if (bytes === undefined) throw missing()
  return bytes
}

const missing = () => new Problem('content-missing')
