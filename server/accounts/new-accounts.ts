import { randomBytes } from 'node:crypto'
import { Problem } from '#core/problems'
import {
  config,
  ConstraintError,
  databaseError,
  maybeOne,
  noteEvent,
  pool,
  take,
  tooMany,
  transaction,
} from '#server/platform'
import { type Account, findAccount, insertAccount } from './account-rows'
import { originOf, tokenHash } from './accounts'
import { sendLetterSoon } from './mail'
import { hashPassword, refuseGuessable } from './passwords'

/** How long a link that makes an account is good for. */
const linkHours = 24

/**
 * An address at which an account is made; one that was made for the same e-mail address before gives nothing any more.
 * @param next where its owner goes then: a path of this server
 */
export async function accountLink(email: string, next: string, origin: string): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  await pool().query(
    `INSERT INTO asked_accounts (token_hash, email, next, ends_at)
     VALUES ($1, $2, $3, now() + make_interval(hours => ${linkHours}))
     ON CONFLICT (email) DO UPDATE SET token_hash = excluded.token_hash, next = excluded.next, ends_at = excluded.ends_at`,
    [tokenHash(token), email, next],
  )
  return `${origin}/new-account/${token}`
}

/**
 * Sends a letter with a link that makes an account, or, where the address has one, a letter that says so. Who asks
 * learns neither: the answer is the same, and takes as long.
 * @param origin the public origin of this server
 * @throws Problem `closed`, `too-many-attempts`
 */
export async function askForAccount(
  email: string,
  next: string,
  origin: string,
  remoteAddress: string,
  isOfClass = false,
): Promise<void> {
  if (config().signUp !== 'confirmed') throw new Problem('closed')
  const wait =
    (await take(isOfClass ? 'class-sign-up' : 'sign-up', originOf(remoteAddress))) ??
    (await take('letter', tokenHash(email).toString('base64url')))
  if (wait !== null) throw tooMany('That was asked for several times just now.', wait)
  // Both are done for either, so that the time taken tells nothing.
  const known = await findAccount(pool(), email)
  const link = await accountLink(email, next, origin)
  sendLetterSoon(
    known
      ? {
          to: email,
          subject: 'You have an account for Rubricant',
          text: `Somebody, you we hope, wanted to make an account with this address at ${origin}. It has one: sign in at ${origin}/sign-in, or choose another password at ${origin}/forgotten.\n\nIf it was not you, leave this letter alone.\n`,
        }
      : {
          to: email,
          subject: 'Your account for Rubricant',
          text: `Somebody, you we hope, wants to make an account with this address at ${origin}.\n\nChoose its password within a day:\n${link}\n\nIf it was not you, leave this letter alone: nothing is made.\n`,
        },
  )
}

/** The e-mail address that a link makes an account for; null when it is good no more. Nothing is taken by looking. */
export const askedAddress = async (token: string): Promise<string | null> =>
  (
    await maybeOne<{ email: string }>(
      pool(),
      'SELECT email FROM asked_accounts WHERE token_hash = $1 AND ends_at > now()',
      [tokenHash(token)],
    )
  )?.email ?? null

/**
 * Makes the account that a link is for, with a password that whoever holds the link chose.
 * @returns it, and where its owner wanted to go
 * @throws Problem `link-ended`, `common-password`, `own-words-password`, `address-taken`
 */
export async function makeAccount(
  token: string,
  password: string,
): Promise<{ readonly account: Account; readonly next: string }> {
  const passwordHash = await hashPassword(password)
  return transaction(async (client) => {
    const asked = await maybeOne<{ email: string; next: string }>(
      client,
      'DELETE FROM asked_accounts WHERE token_hash = $1 AND ends_at > now() RETURNING email, next',
      [tokenHash(token)],
    )
    if (!asked) throw new Problem('link-ended')
    // The link is good still: refused, nothing of this is done.
    await refuseGuessable(password, asked.email)
    const account = await insertAccount(client, asked.email, passwordHash)
    noteEvent('account made', { accountId: account.id })
    return { account, next: asked.next }
  }).catch((error: unknown) => {
    const known = databaseError(error)
    // They hold a letter to the address, so they may know that it has an account.
    if (known instanceof ConstraintError && known.code === 'duplicate') throw new Problem('address-taken')
    throw known
  })
}
