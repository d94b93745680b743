import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'
import { Problem } from '#core/problems'
import { many, type Queryable } from '#server/platform'
import { Memory } from './memory'
import type { Pieces, StoredContent } from './store'

/** SHA-256 of bytes or of a text in UTF-8, as the core names contents. */
export const hashOf = (bytes: Buffer | string): Hash => createHash('sha256').update(bytes).digest('hex')

/** The hash and size of bytes that come in pieces; none of them is kept. */
export async function hashOfPieces(pieces: Pieces): Promise<StoredContent> {
  const hash = createHash('sha256')
  let sizeBytes = 0
  for await (const piece of pieces) {
    hash.update(piece)
    sizeBytes += piece.length
  }
  return { hash: hash.digest('hex'), sizeBytes }
}

/** Stores contents; what is there already is not stored again. */
export async function putBlobs(db: Queryable, contents: readonly (Buffer | string)[]): Promise<Hash[]> {
  const hashes = contents.map(hashOf)
  const unique = new Map(hashes.map((hash, index) => [hash, contents[index]!]))
  await db.query(
    // One that is there already is young again: it is not collected before what names it is stored.
    `INSERT INTO blobs (hash, bytes, size_bytes)
     SELECT hash, bytes, length(bytes) FROM unnest($1::text[], $2::bytea[]) AS t(hash, bytes)
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

/** Contents by hash, whole; hashes that are not there are left out. For texts, and files that are known to fit. */
export async function getBlobs(db: Queryable, hashes: Iterable<Hash>): Promise<Map<Hash, Buffer>> {
  const wanted = [...new Set(hashes)]
  if (wanted.length === 0) return new Map()
  const rows = await many<{ hash: Hash; bytes: Buffer }>(
    db,
    `SELECT hash, coalesce(bytes, (SELECT string_agg(p.bytes, ''::bytea ORDER BY position)
       FROM blob_portions p WHERE p.content = b.portions)) AS bytes
     FROM blobs b WHERE hash = ANY($1)`,
    [wanted],
  )
  return new Map(rows.map((row) => [row.hash, row.bytes]))
}

/** The first bytes of contents, by hash; a content that is kept in portions is begun, and not read to its end. */
export async function getFronts(
  db: Queryable,
  hashes: Iterable<Hash>,
  most: number,
): Promise<Map<Hash, Buffer>> {
  const rows = await many<{ hash: Hash; bytes: Buffer }>(
    db,
    `SELECT hash, coalesce(substring(bytes FROM 1 FOR $2), (SELECT substring(p.bytes FROM 1 FOR $2)
       FROM blob_portions p WHERE p.content = b.portions ORDER BY position LIMIT 1), ''::bytea) AS bytes
     FROM blobs b WHERE hash = ANY($1)`,
    [[...new Set(hashes)], most],
  )
  return new Map(rows.map((row) => [row.hash, row.bytes]))
}

/** Contents by hash, as texts in UTF-8. */
export async function getTexts(db: Queryable, hashes: Iterable<Hash>): Promise<Map<Hash, string>> {
  return new Map([...(await getBlobs(db, hashes))].map(([hash, bytes]) => [hash, bytes.toString('utf8')]))
}

const shortTexts = new Memory<string>(8_000_000)
const longestShort = 32_000

/** The same for texts that every change of a site reads again, such as its templates: short ones stay in memory. */
export async function getTextsOften(db: Queryable, hashes: Iterable<Hash>): Promise<Map<Hash, string>> {
  const texts = new Map<Hash, string>()
  const unread: Hash[] = []
  for (const hash of new Set(hashes)) {
    const known = shortTexts.get(hash)
    if (known === undefined) unread.push(hash)
    else texts.set(hash, known)
  }
  for (const [hash, text] of await getTexts(db, unread)) {
    texts.set(hash, text)
    if (text.length <= longestShort) shortTexts.set(hash, text, 100 + 2 * text.length)
  }
  return texts
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

export const missing = () => new Problem('content-missing')
