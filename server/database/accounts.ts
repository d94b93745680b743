import { maybeOne, type Queryable } from './pool'

export interface Account {
  readonly id: string
  readonly email: string
}

export const insertAccount = async (db: Queryable, email: string, passwordHash: string): Promise<Account> =>
  (await maybeOne<Account>(
    db,
    'INSERT INTO accounts (email, password_hash) VALUES ($1, $2) RETURNING id, email',
    [email, passwordHash],
  ))!

export const findAccount = (
  db: Queryable,
  email: string,
): Promise<(Account & { passwordHash: string }) | null> =>
  maybeOne(db, 'SELECT id, email, password_hash AS "passwordHash" FROM accounts WHERE email = $1', [email])

export async function insertSession(
  db: Queryable,
  tokenHash: Buffer,
  accountId: string,
  days: number,
): Promise<void> {
  await db.query(
    `INSERT INTO sessions (token_hash, account_id, expires_at) VALUES ($1, $2, now() + make_interval(days => $3))`,
    [tokenHash, accountId, days],
  )
  await db.query('DELETE FROM sessions WHERE expires_at < now()')
}

export const findSession = (db: Queryable, tokenHash: Buffer): Promise<Account | null> =>
  maybeOne<Account>(
    db,
    `SELECT a.id, a.email FROM sessions s JOIN accounts a ON a.id = s.account_id
     WHERE s.token_hash = $1 AND s.expires_at > now()`,
    [tokenHash],
  )

export async function deleteSession(db: Queryable, tokenHash: Buffer): Promise<void> {
  await db.query('DELETE FROM sessions WHERE token_hash = $1', [tokenHash])
}

/** Failed attempts for a key in the last minutes. */
export async function countFailures(db: Queryable, key: string, minutes: number): Promise<number> {
  const row = await maybeOne<{ count: number }>(
    db,
    'SELECT count(*) AS count FROM sign_in_failures WHERE key = $1 AND failed_at > now() - make_interval(mins => $2)',
    [key, minutes],
  )
  return row!.count
}

export async function insertFailure(db: Queryable, keys: readonly string[]): Promise<void> {
  await db.query('INSERT INTO sign_in_failures (key) SELECT unnest($1::text[])', [keys])
  await db.query(`DELETE FROM sign_in_failures WHERE failed_at < now() - interval '1 day'`)
}

export async function clearFailures(db: Queryable, key: string): Promise<void> {
  await db.query('DELETE FROM sign_in_failures WHERE key = $1', [key])
}

/** Whether something has been done once and for all. */
export const hasMilestone = async (db: Queryable, name: string): Promise<boolean> =>
  (await maybeOne(db, 'SELECT 1 FROM milestones WHERE name = $1', [name])) !== null

export async function setMilestone(db: Queryable, name: string): Promise<void> {
  await db.query('INSERT INTO milestones (name) VALUES ($1) ON CONFLICT DO NOTHING', [name])
}
