import { Problem } from '#core/problems'
import {
  forgive,
  many,
  maybeOne,
  noteEvent,
  pool,
  type Queryable,
  takeWithGrowingDelay,
  tooMany,
  transaction,
} from '#server/platform'
import type { Account } from './account-rows'
import { sessionToken, tokenHash } from './accounts'
import { hashPassword, refuseGuessable, verifyPassword } from './passwords'

/** A session as its account sees it. */
export interface OwnSession {
  readonly id: string
  /** What its browser says it is; empty for one from before that was kept. */
  readonly browser: string
  readonly begunAt: Date
  readonly seenAt: Date
  /** Whether it is the one that asks. */
  readonly isThis: boolean
}

/** The sessions of an account, those used last in front. */
export const listSessions = (accountId: string, request: Request): Promise<OwnSession[]> =>
  many<OwnSession>(
    pool(),
    `SELECT id, browser, begun_at AS "begunAt", seen_at AS "seenAt", token_hash = $2 AS "isThis" FROM sessions
     WHERE account_id = $1 AND expires_at > now() ORDER BY token_hash = $2 DESC, seen_at DESC LIMIT 100`,
    [accountId, tokenHash(sessionToken(request) ?? '')],
  )

/**
 * Ends one session of an account, whichever browser has it: whoever sits at one that was left open ends no other.
 * @throws Problem `wrong-own-password`, `too-many-attempts`
 */
export async function endOneSession(accountId: string, password: string, sessionId: string): Promise<void> {
  await confirm(accountId, password)
  await pool().query('DELETE FROM sessions WHERE account_id = $1 AND id = $2', [accountId, sessionId])
  noteEvent('sessions ended', { which: 'one' })
}

/**
 * Ends every session of an account but the one that asks.
 * @throws Problem `wrong-own-password`, `too-many-attempts`
 */
export async function endOtherSessions(accountId: string, password: string, request: Request): Promise<void> {
  await confirm(accountId, password)
  noteEvent('sessions ended', { which: 'others' })
  await pool().query('DELETE FROM sessions WHERE account_id = $1 AND token_hash <> $2', [
    accountId,
    tokenHash(sessionToken(request) ?? ''),
  ])
}

/** Sets what others know an account by; empty for what its e-mail address begins with. */
export async function setName(accountId: string, name: string): Promise<void> {
  await pool().query('UPDATE accounts SET name = $2 WHERE id = $1', [accountId, name])
}

/**
 * Asks for the password again before what cannot be taken back. Whoever sits at a browser that was left open guesses no
 * faster than at the door.
 * @throws Problem `wrong-password`, `too-many-attempts`
 */
export async function confirm(accountId: string, password: string): Promise<void> {
  const key = `again ${accountId}`
  const wait = await takeWithGrowingDelay('guess', key)
  if (wait !== null) throw tooMany('Too many failed attempts.', wait)
  const row = await maybeOne<{ passwordHash: string }>(
    pool(),
    'SELECT password_hash AS "passwordHash" FROM accounts WHERE id = $1',
    [accountId],
  )
  if (!row || !(await verifyPassword(row.passwordHash, password))) {
    noteEvent('password asked for again, refused')
    throw new Problem('wrong-own-password', null, { detail: { field: 'current' } })
  }
  await forgive('guess', key)
}

/**
 * Gives an account another password and ends its other sessions: who had the old one is out.
 * @throws Problem `wrong-own-password`, `common-password`, `own-words-password`, `too-many-attempts`
 */
export async function changePassword(
  { id: accountId, email }: Pick<Account, 'id' | 'email'>,
  current: string,
  next: string,
  request: Request,
): Promise<void> {
  await refuseGuessable(next, email, 'next')
  await confirm(accountId, current)
  const passwordHash = await hashPassword(next)
  await transaction(async (client) => {
    await client.query('UPDATE accounts SET password_hash = $2 WHERE id = $1', [accountId, passwordHash])
    await client.query('DELETE FROM sessions WHERE account_id = $1 AND token_hash <> $2', [
      accountId,
      tokenHash(sessionToken(request) ?? ''),
    ])
  })
  noteEvent('password changed')
}

/** Ends every session of an account, by whoever runs the server; of all accounts where none is named. Returns how many. */
export async function endAllSessions(accountId: string | null): Promise<number> {
  const { rowCount } = await pool().query('DELETE FROM sessions WHERE $1::uuid IS NULL OR account_id = $1', [
    accountId,
  ])
  return rowCount ?? 0
}

/**
 * Removes an account with everything that is its own: sites, texts, files, kits, hosts, keys. What has been delivered
 * stays where it is.
 * @param isSending whether any of its sites is on its way to a host
 * @throws Problem `wrong-own-password`, `under-way`, `too-many-attempts`
 */
export async function leaveAccount(
  accountId: string,
  password: string,
  isSending: (db: Queryable, accountId: string) => Promise<boolean>,
): Promise<void> {
  await confirm(accountId, password)
  await transaction(async (client) => {
    await client.query('SELECT 1 FROM accounts WHERE id = $1 FOR UPDATE', [accountId])
    if (await isSending(client, accountId)) throw new Problem('leaving-under-way')
    await client.query('DELETE FROM accounts WHERE id = $1', [accountId])
  })
  noteEvent('account left', { accountId })
}
