import type { BuiltFault } from '#core/findings'
import type { Hash } from '#core/site'
import { many, type Queryable } from '#server/platform'

/** What was found on finished pages, by the hashes of those that were looked at. */
export async function listLooked(db: Queryable, hashes: readonly Hash[]): Promise<Map<Hash, BuiltFault[]>> {
  const rows = await many<{ hash: Hash; faults: BuiltFault[] }>(
    db,
    'UPDATE looked_pages SET looked_at = now() WHERE hash = ANY($1) RETURNING hash, faults',
    [hashes],
  )
  return new Map(rows.map(({ hash, faults }) => [hash, faults]))
}

export async function putLooked(db: Queryable, hash: Hash, faults: readonly BuiltFault[]): Promise<void> {
  await db.query(
    'INSERT INTO looked_pages (hash, faults) VALUES ($1, $2) ON CONFLICT (hash) DO UPDATE SET faults = excluded.faults, looked_at = now()',
    [hash, JSON.stringify(faults)],
  )
}

/** What nobody has asked for so long. */
export async function deleteOldLooks(db: Queryable, afterDays: number): Promise<void> {
  await db.query('DELETE FROM looked_pages WHERE looked_at < now() - make_interval(days => $1)', [afterDays])
}
