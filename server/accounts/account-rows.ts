import { maybeOne, type Queryable } from '#server/platform'

export interface Account {
  readonly id: string
  readonly email: string
  /** What others know it by. */
  readonly name: string
}

/** What others know an account by, in SQL: until it says, what its e-mail address begins with. */
export const nameOf = (table: string): string =>
  `coalesce(nullif(${table}.name, ''), split_part(${table}.email, '@', 1))`

export const insertAccount = async (db: Queryable, email: string, passwordHash: string): Promise<Account> =>
  (await maybeOne<Account>(
    db,
    `INSERT INTO accounts AS a (email, password_hash) VALUES ($1, $2) RETURNING id, email, ${nameOf('a')} AS name`,
    [email, passwordHash],
  ))!

export const findAccount = (
  db: Queryable,
  email: string,
): Promise<(Account & { passwordHash: string }) | null> =>
  maybeOne(
    db,
    `SELECT id, email, ${nameOf('a')} AS name, password_hash AS "passwordHash" FROM accounts a WHERE email = $1`,
    [email],
  )

/** Days after which a session that nobody uses ends. */
const idleDays = 14

/** Begins a session in the place of another, if there is one. */
export async function insertSession(
  db: Queryable,
  tokenHash: Buffer,
  accountId: string,
  days: number,
  replaced: Buffer | null,
  browser: string,
): Promise<void> {
  await db.query(
    `WITH ended AS (DELETE FROM sessions WHERE token_hash = $4)
     INSERT INTO sessions (token_hash, account_id, expires_at, browser)
       VALUES ($1, $2, now() + make_interval(days => $3), $5)`,
    [tokenHash, accountId, days, replaced, browser],
  )
}

/** The account of a session that has neither run out nor been left alone for long. */
export async function findSession(db: Queryable, tokenHash: Buffer): Promise<Account | null> {
  const row = await maybeOne<Account & { stale: boolean }>(
    db,
    `SELECT a.id, a.email, ${nameOf('a')} AS name, s.seen_at < now() - interval '1 hour' AS stale
     FROM sessions s JOIN accounts a ON a.id = s.account_id
     WHERE s.token_hash = $1 AND s.expires_at > now() AND s.seen_at > now() - make_interval(days => ${idleDays})`,
    [tokenHash],
  )
  if (!row) return null
  // Not with every request: once an hour is enough to tell used from left alone.
  if (row.stale) await db.query('UPDATE sessions SET seen_at = now() WHERE token_hash = $1', [tokenHash])
  return { id: row.id, email: row.email, name: row.name }
}

export async function deleteOldSessions(db: Queryable): Promise<void> {
  await db.query(
    `DELETE FROM sessions WHERE expires_at < now() OR seen_at < now() - make_interval(days => ${idleDays})`,
  )
}

export async function deleteSession(db: Queryable, tokenHash: Buffer): Promise<void> {
  await db.query('DELETE FROM sessions WHERE token_hash = $1', [tokenHash])
}

/** Whether something has been done once and for all. */
export const hasMilestone = async (db: Queryable, name: string): Promise<boolean> =>
  (await maybeOne(db, 'SELECT 1 FROM milestones WHERE name = $1', [name])) !== null

export async function setMilestone(db: Queryable, name: string): Promise<void> {
  await db.query('INSERT INTO milestones (name) VALUES ($1) ON CONFLICT DO NOTHING', [name])
}
