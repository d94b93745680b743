import { contentsOfKit, type Kit } from '#core/kit'
import { many, maybeOne, type Queryable } from '#server/platform'

/** A kit that an account keeps. */
export interface KeptKit {
  readonly id: string
  readonly kit: Kit
}

export const listKept = (db: Queryable, accountId: string): Promise<KeptKit[]> =>
  many<KeptKit>(db, 'SELECT id, kit FROM kits WHERE account_id = $1 ORDER BY lower(name), name', [accountId])

export const findKept = (db: Queryable, accountId: string, id: string): Promise<KeptKit | null> =>
  maybeOne<KeptKit>(db, 'SELECT id, kit FROM kits WHERE account_id = $1 AND id = $2', [accountId, id])

/** Keeps a kit; one of its name gives way. Its contents have to be kept already. */
export async function insertKit(db: Queryable, accountId: string, id: string, kit: Kit): Promise<void> {
  await db.query('DELETE FROM kits WHERE account_id = $1 AND name = $2', [accountId, kit.name])
  await db.query('INSERT INTO kits (id, account_id, name, kit) VALUES ($1, $2, $3, $4)', [
    id,
    accountId,
    kit.name,
    JSON.stringify(kit),
  ])
  await db.query('INSERT INTO kit_contents (kit_id, hash) SELECT $1, unnest($2::text[])', [
    id,
    [...new Set(contentsOfKit(kit))],
  ])
}

export async function deleteKept(db: Queryable, accountId: string, id: string): Promise<void> {
  await db.query('DELETE FROM kits WHERE account_id = $1 AND id = $2', [accountId, id])
}
