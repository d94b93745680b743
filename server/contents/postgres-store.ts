import { createHash, randomUUID } from 'node:crypto'
import type { Hash } from '#core/site'
import { many, maybeOne, type Queryable } from '#server/platform'
import { type ContentStore, type Pieces, portionBytes, portionsOfPieces, type StoredContent } from './store'

/** Whether nothing names the content of a row `b` of `blobs`. */
const unnamed = `NOT EXISTS (SELECT 1 FROM pages WHERE content = b.hash)
  AND NOT EXISTS (SELECT 1 FROM page_slots WHERE content = b.hash)
  AND NOT EXISTS (SELECT 1 FROM translated_texts WHERE content = b.hash)
  AND NOT EXISTS (SELECT 1 FROM site_files WHERE hash = b.hash)
  AND NOT EXISTS (SELECT 1 FROM templates WHERE source = b.hash)
  AND NOT EXISTS (SELECT 1 FROM brought_files WHERE hash = b.hash)
  AND NOT EXISTS (SELECT 1 FROM kit_contents WHERE hash = b.hash)
  AND NOT EXISTS (SELECT 1 FROM history_contents WHERE hash = b.hash)
  AND NOT EXISTS (SELECT 1 FROM delivered_files WHERE hash = b.hash)
  AND NOT EXISTS (SELECT 1 FROM delivery_files WHERE hash = b.hash)`

/** Contents in PostgreSQL: what fits in a portion as one row, what is larger as a row for each portion. */
export class PostgresContents implements ContentStore {
  constructor(private readonly db: Queryable) {}

  async put(pieces: Pieces): Promise<StoredContent> {
    const digest = createHash('sha256')
    const content = randomUUID()
    let held: Buffer | null = null
    let position = 0
    let sizeBytes = 0
    const putPortion = (bytes: Buffer) =>
      this.db.query('INSERT INTO blob_portions (content, position, bytes) VALUES ($1, $2, $3)', [
        content,
        position++,
        bytes,
      ])
    try {
      // The first one waits: where it stays the only one, it goes into the row itself.
      for await (const portion of portionsOfPieces(pieces)) {
        digest.update(portion)
        sizeBytes += portion.length
        if (held) await putPortion(held)
        held = portion
      }
      if (position > 0) await putPortion(held!)
      const hash = digest.digest('hex')
      const { rows } = await this.db.query<{ portions: string | null }>(
        `INSERT INTO blobs (hash, size_bytes, bytes, portions) VALUES ($1, $2, $3, $4)
         ON CONFLICT (hash) DO UPDATE SET put_at = now() RETURNING portions`,
        [hash, sizeBytes, position === 0 ? held : null, position === 0 ? null : content],
      )
      if (position > 0 && rows[0]!.portions !== content) await this.#drop(content)
      return { hash, sizeBytes }
    } catch (error) {
      // What cannot be dropped now is collected.
      if (position > 0) await this.#drop(content).catch(() => {})
      throw error
    }
  }

  async #drop(content: string): Promise<void> {
    await this.db.query('DELETE FROM blob_portions WHERE content = $1', [content])
  }

  async get(hash: Hash, start = 0) {
    const row = await maybeOne<{ sizeBytes: number; bytes: Buffer | null; portions: string | null }>(
      this.db,
      'SELECT size_bytes AS "sizeBytes", bytes, portions FROM blobs WHERE hash = $1',
      [hash],
    )
    if (!row) return null
    const { db } = this
    async function* pieces(): AsyncGenerator<Buffer> {
      if (row!.bytes) {
        yield row!.bytes.subarray(start)
        return
      }
      const first = Math.floor(start / portionBytes)
      for (let position = first; ; position++) {
        const portion = await maybeOne<{ bytes: Buffer }>(
          db,
          'SELECT bytes FROM blob_portions WHERE content = $1 AND position = $2',
          [row!.portions, position],
        )
        if (!portion) return
        yield position === first ? portion.bytes.subarray(start % portionBytes) : portion.bytes
      }
    }
    return { sizeBytes: row.sizeBytes, pieces: pieces() }
  }

  async sizes(hashes: Iterable<Hash>): Promise<ReadonlyMap<Hash, number>> {
    const rows = await many<{ hash: Hash; sizeBytes: number }>(
      this.db,
      'SELECT hash, size_bytes AS "sizeBytes" FROM blobs WHERE hash = ANY($1)',
      [[...new Set(hashes)]],
    )
    return new Map(rows.map((row) => [row.hash, row.sizeBytes]))
  }

  async isNamed(hash: Hash): Promise<boolean> {
    const row = await maybeOne(this.db, `SELECT 1 FROM blobs b WHERE hash = $1 AND NOT (${unnamed})`, [hash])
    return row !== null
  }

  async collect(most: number, afterHours: number): Promise<number> {
    const { rows } = await this.db.query<{ portions: string | null }>(
      `DELETE FROM blobs WHERE put_at < now() - make_interval(hours => $2) AND hash IN (
         SELECT hash FROM blobs b WHERE put_at < now() - make_interval(hours => $2) AND ${unnamed} LIMIT $1)
       RETURNING portions`,
      [most, afterHours],
    )
    const contents = rows.flatMap((row) => row.portions ?? [])
    if (contents.length > 0)
      await this.db.query('DELETE FROM blob_portions WHERE content = ANY($1)', [contents])
    await this.db.query(
      `DELETE FROM blob_portions p WHERE put_at < now() - make_interval(hours => $1)
         AND NOT EXISTS (SELECT 1 FROM blobs WHERE portions = p.content)
         AND NOT EXISTS (SELECT 1 FROM uploads WHERE id = p.content)`,
      [afterHours],
    )
    return rows.length
  }
}
