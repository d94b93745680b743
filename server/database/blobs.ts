import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'
import { many, type Queryable } from './pool'

/** SHA-256 of bytes or of a text in UTF-8, as the core names contents. */
export const hashOf = (bytes: Buffer | string): Hash => createHash('sha256').update(bytes).digest('hex')

/** Stores contents; what is there already is not stored again. */
export async function putBlobs(db: Queryable, contents: readonly (Buffer | string)[]): Promise<Hash[]> {
  const hashes = contents.map(hashOf)
  const unique = new Map(hashes.map((hash, index) => [hash, contents[index]!]))
  await db.query(
    'INSERT INTO blobs (hash, bytes) SELECT * FROM unnest($1::text[], $2::bytea[]) ON CONFLICT DO NOTHING',
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
