import { defaultScheme, type Scheme } from '#core/site'
import { many, type Queryable } from '#server/platform'

/** A naming scheme kept for the next site. */
export interface SavedScheme {
  readonly name: string
  readonly scheme: Scheme
}

export async function listSchemes(db: Queryable, accountId: string): Promise<SavedScheme[]> {
  const rows = await many<SavedScheme>(
    db,
    'SELECT name, scheme FROM saved_schemes WHERE account_id = $1 ORDER BY lower(name), name',
    [accountId],
  )
  // A scheme stored before a setting was invented has that setting's default.
  return rows.map(({ name, scheme }) => ({ name, scheme: { ...defaultScheme, ...scheme } }))
}

/** Keeps a scheme under a name; one of that name is replaced. */
export async function putScheme(
  db: Queryable,
  accountId: string,
  { name, scheme }: SavedScheme,
): Promise<void> {
  await db.query(
    `INSERT INTO saved_schemes (account_id, name, scheme) VALUES ($1, $2, $3)
     ON CONFLICT (account_id, name) DO UPDATE SET scheme = excluded.scheme, saved_at = now()`,
    [accountId, name, JSON.stringify(scheme)],
  )
}

export async function deleteScheme(db: Queryable, accountId: string, name: string): Promise<void> {
  await db.query('DELETE FROM saved_schemes WHERE account_id = $1 AND name = $2', [accountId, name])
}

export const listDismissed = async (db: Queryable, siteId: string): Promise<string[]> =>
  (await many<{ key: string }>(db, 'SELECT key FROM dismissed_advice WHERE site_id = $1', [siteId])).map(
    (row) => row.key,
  )

export async function dismiss(db: Queryable, siteId: string, key: string): Promise<void> {
  await db.query('INSERT INTO dismissed_advice (site_id, key) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
    siteId,
    key,
  ])
}
