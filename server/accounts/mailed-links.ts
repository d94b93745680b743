import { randomBytes } from 'node:crypto'
import { Problem } from '#core/problems'
import {
  ConstraintError,
  databaseError,
  maybeOne,
  noteEvent,
  pool,
  type Queryable,
  take,
  tooMany,
  transaction,
} from '#server/platform'
import { findAccount } from './account-rows'
import { originOf, tokenHash } from './accounts'
import { sendLetter, sendLetterSoon, sendsMail } from './mail'
import { confirm } from './own-account'
import { hashPassword, refuseGuessable } from './passwords'

/** How long an address that was sent by mail is good for. */
const linkMinutes = 60

async function makeLink(
  db: Queryable,
  accountId: string,
  kind: 'password' | 'address',
  email: string | null = null,
): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  // One of each kind: what was asked for before gives nothing any more.
  await db.query('DELETE FROM mailed_links WHERE account_id = $1 AND kind = $2', [accountId, kind])
  await db.query(
    `INSERT INTO mailed_links (token_hash, account_id, kind, email, ends_at)
     VALUES ($1, $2, $3, $4, now() + make_interval(mins => ${linkMinutes}))`,
    [tokenHash(token), accountId, kind, email],
  )
  return token
}

/** An address at which the password of an account can be chosen anew; null where there is no such account. */
export async function passwordLink(email: string, origin: string): Promise<string | null> {
  const account = await findAccount(pool(), email)
  if (!account) return null
  return `${origin}/new-password/${await makeLink(pool(), account.id, 'password')}`
}

/**
 * Sends a link by which a forgotten password is chosen anew, where the address has an account. Whether it has one is not
 * told: the answer is the same, and takes as long.
 * @param origin the public origin of this server
 * @throws Problem `no-mail`, `too-many-attempts`
 */
export async function forgotPassword(email: string, origin: string, remoteAddress: string): Promise<void> {
  if (!sendsMail()) throw new Problem('no-mail')
  const wait =
    (await take('letter-from', originOf(remoteAddress))) ??
    (await take('letter', tokenHash(email).toString('base64url')))
  if (wait !== null) throw tooMany('That was asked for several times just now.', wait)
  const link = await passwordLink(email, origin)
  if (link !== null)
    sendLetterSoon({
      to: email,
      subject: 'A new password for Rubricant',
      text: `Somebody, you we hope, asked for a new password at ${origin}.\n\nChoose it here within an hour:\n${link}\n\nIf it was not you, leave this letter alone: your password stays as it is.\n`,
    })
}

/** Whether an address to choose a password is good still; nothing is taken by looking. */
export const isPasswordLink = async (token: string): Promise<boolean> =>
  (await maybeOne(
    pool(),
    "SELECT 1 FROM mailed_links WHERE token_hash = $1 AND kind = 'password' AND ends_at > now()",
    [tokenHash(token)],
  )) !== null

/**
 * Chooses a password by a link; every session of the account ends.
 * @throws Problem `link-ended`, `common-password`, `own-words-password`
 */
export async function choosePassword(token: string, password: string): Promise<void> {
  const passwordHash = await hashPassword(password)
  const accountId = await transaction(async (client) => {
    const link = await maybeOne<{ accountId: string; email: string }>(
      client,
      `DELETE FROM mailed_links l USING accounts a
       WHERE token_hash = $1 AND kind = 'password' AND ends_at > now() AND a.id = l.account_id
       RETURNING a.id AS "accountId", a.email`,
      [tokenHash(token)],
    )
    if (!link) throw new Problem('link-ended')
    // The link is good still: refused, nothing of this is done.
    await refuseGuessable(password, link.email)
    await client.query('UPDATE accounts SET password_hash = $2 WHERE id = $1', [link.accountId, passwordHash])
    await client.query('DELETE FROM sessions WHERE account_id = $1', [link.accountId])
    return link.accountId
  })
  noteEvent('password chosen by a link', { accountId })
}

/**
 * Sends a link to an address that an account wants to have from now on.
 * @throws Problem `no-mail`, `wrong-own-password`, `too-many-attempts`
 */
export async function askForAddress(
  account: { readonly id: string; readonly email: string },
  email: string,
  password: string,
  origin: string,
): Promise<void> {
  if (!sendsMail()) throw new Problem('no-mail')
  await confirm(account.id, password)
  const wait = await take('letter', account.id)
  if (wait !== null) throw tooMany('That was asked for several times just now.', wait)
  const token = await makeLink(pool(), account.id, 'address', email)
  await sendLetter({
    to: email,
    subject: 'Your new address for Rubricant',
    text: `The account ${account.email} at ${origin} wants to use this address from now on.\n\nIf that is you, take it here within an hour:\n${origin}/new-address/${token}\n\nIf not, leave this letter alone.\n`,
  }).catch((error: unknown) => {
    throw new Problem('mail-failed', null, { cause: error })
  })
}

/**
 * Takes the address that a link was sent to; the old one hears of it.
 * @returns the new address
 * @throws Problem `link-ended`
 */
export async function takeAddress(token: string): Promise<string> {
  const taken = await transaction(async (client) => {
    const link = await maybeOne<{ accountId: string; email: string; old: string }>(
      client,
      `DELETE FROM mailed_links l USING accounts a WHERE l.token_hash = $1 AND l.kind = 'address' AND l.ends_at > now()
         AND a.id = l.account_id RETURNING l.account_id AS "accountId", l.email, a.email AS old`,
      [tokenHash(token)],
    )
    if (!link) throw new Problem('link-ended')
    await client.query('UPDATE accounts SET email = $2 WHERE id = $1', [link.accountId, link.email])
    return link
  }).catch((error: unknown) => {
    const known = databaseError(error)
    // Somebody has made an account with it meanwhile; whoever holds the link may know that, it is their address.
    if (known instanceof ConstraintError && known.code === 'duplicate') throw new Problem('address-taken')
    throw known
  })
  noteEvent('address changed', { accountId: taken.accountId })
  if (sendsMail())
    sendLetterSoon({
      to: taken.old,
      subject: 'Your address for Rubricant has changed',
      text: `Your account uses ${taken.email} from now on. If that was not you, ask whoever runs the server.\n`,
    })
  return taken.email
}

/** Links that have run out. */
export async function deleteOldLinks(db: Queryable): Promise<void> {
  await db.query('DELETE FROM mailed_links WHERE ends_at < now()')
  await db.query('DELETE FROM asked_accounts WHERE ends_at < now()')
}
