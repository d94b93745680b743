import { randomInt } from 'node:crypto'
import { Secret, TOTP } from 'otpauth'
import QRCode from 'qrcode'
import { Problem } from '#core/problems'
import {
  forgive,
  isSigned,
  many,
  maybeOne,
  noteEvent,
  pool,
  type Queryable,
  resealWith,
  seal,
  sign,
  takeWithGrowingDelay,
  tooMany,
  transaction,
  unseal,
} from '#server/platform'
import { tokenHash } from './accounts'
import { confirm } from './own-account'

/** Seconds of one step, and steps before and after now whose codes are taken: clocks differ (RFC 6238 §5.2). */
const stepSeconds = 30
const stepsAside = 1
const spareCodes = 10
/** How long a right password waits for the second step. */
const waitingMinutes = 10

const sealedFor = (accountId: string) => `second step of ${accountId}`
const totpOf = (secret: string, email: string) =>
  new TOTP({ issuer: 'Rubricant', label: email, secret: Secret.fromBase32(secret), period: stepSeconds })
const plain = (code: string) => code.toLowerCase().replace(/[\s-]/g, '')

/** Whether an account has no second step, has begun to set one up, or signs in with it. */
export async function secondStepState(accountId: string): Promise<'off' | 'begun' | 'on'> {
  const row = await maybeOne<{ isOn: boolean }>(
    pool(),
    'SELECT confirmed_at IS NOT NULL AS "isOn" FROM second_steps WHERE account_id = $1',
    [accountId],
  )
  return row === null ? 'off' : row.isOn ? 'on' : 'begun'
}

/** What an app has to be told to make an account's codes. */
export interface StepToSetUp {
  /** In base 32 (RFC 4648 §6), in groups of four. */
  readonly secret: string
  /** The same as a picture to be looked at with a phone: an SVG. */
  readonly picture: string
}

/**
 * Makes a secret for an account's second step, in the place of one that was never confirmed.
 * @throws Problem `wrong-own-password`, `too-many-attempts`, `changed-elsewhere` where it has one
 */
export async function beginSecondStep(
  account: { readonly id: string; readonly email: string },
  password: string,
): Promise<StepToSetUp> {
  await confirm(account.id, password)
  const secret = new Secret({ size: 20 }).base32
  const made = await maybeOne(
    pool(),
    `INSERT INTO second_steps (account_id, secret_sealed) VALUES ($1, $2)
     ON CONFLICT (account_id) DO UPDATE SET secret_sealed = excluded.secret_sealed
       WHERE second_steps.confirmed_at IS NULL RETURNING 1`,
    [account.id, seal(secret, sealedFor(account.id))],
  )
  if (!made) throw new Problem('changed-elsewhere', { why: 'This account has a second step already.' })
  return {
    secret: secret.match(/.{1,4}/g)!.join(' '),
    picture: await QRCode.toString(totpOf(secret, account.email).toString(), { type: 'svg', margin: 2 }),
  }
}

/** Guesses at codes are counted before they are checked, and each one too many makes the wait longer. */
async function guessing<T>(accountId: string, work: () => Promise<T | null>): Promise<T | null> {
  const key = `second ${accountId}`
  const wait = await takeWithGrowingDelay('guess', key)
  if (wait !== null) throw tooMany('Too many failed attempts.', wait)
  const done = await work()
  if (done !== null) await forgive('guess', key)
  return done
}

/** Takes a code of the app, once; null for one that is not right, or was taken. */
async function takeCode(
  db: Queryable,
  accountId: string,
  code: string,
  confirmed: boolean,
): Promise<true | null> {
  const row = await maybeOne<{ secretSealed: Buffer }>(
    db,
    `SELECT secret_sealed AS "secretSealed" FROM second_steps
     WHERE account_id = $1 AND (confirmed_at IS NOT NULL) = $2 FOR UPDATE`,
    [accountId, confirmed],
  )
  if (!row || !/^\d{6}$/.test(code)) return null
  const aside = totpOf(unseal(row.secretSealed, sealedFor(accountId)), '').validate({
    token: code,
    window: stepsAside,
  })
  if (aside === null) return null
  const step = Math.floor(Date.now() / 1000 / stepSeconds) + aside
  return maybeOne(
    db,
    `UPDATE second_steps SET last_step = $2, confirmed_at = coalesce(confirmed_at, now())
     WHERE account_id = $1 AND last_step < $2 RETURNING 1`,
    [accountId, step],
  ).then((taken) => (taken ? true : null))
}

async function takeSpareCode(db: Queryable, accountId: string, code: string): Promise<true | null> {
  const { rowCount } = await db.query('DELETE FROM spare_codes WHERE account_id = $1 AND code_hash = $2', [
    accountId,
    tokenHash(code),
  ])
  return rowCount === 1 ? true : null
}

/** Spare codes in the place of those before; shown once, kept as hashes. */
async function makeSpareCodes(db: Queryable, accountId: string): Promise<string[]> {
  // Fifty bits each: with as few guesses as there are, nobody comes upon one.
  const letters = 'abcdefghjkmnpqrstuvwxyz23456789'
  const codes = Array.from({ length: spareCodes }, () =>
    Array.from({ length: 10 }, () => letters[randomInt(letters.length)]).join(''),
  )
  await db.query('DELETE FROM spare_codes WHERE account_id = $1', [accountId])
  await db.query('INSERT INTO spare_codes (account_id, code_hash) SELECT $1, unnest($2::bytea[])', [
    accountId,
    codes.map(tokenHash),
  ])
  return codes.map((code) => `${code.slice(0, 5)}-${code.slice(5)}`)
}

/**
 * Has an account sign in with a second step from now on, after a code showed that its app is set up.
 * @returns spare codes, which are not told again
 * @throws Problem `wrong-code`, `too-many-attempts`
 */
export async function confirmSecondStep(accountId: string, code: string): Promise<string[]> {
  const codes = await guessing(accountId, () =>
    transaction(async (client) =>
      (await takeCode(client, accountId, plain(code), false)) ? makeSpareCodes(client, accountId) : null,
    ),
  )
  if (!codes) throw new Problem('wrong-code')
  noteEvent('second step begun', { accountId })
  return codes
}

/** @throws Problem `wrong-own-password`, `too-many-attempts` */
export async function endSecondStep(accountId: string, password: string): Promise<void> {
  await confirm(accountId, password)
  await dropSecondStep(accountId)
}

/** The same by whoever runs the server, for somebody who has lost phone and spare codes. */
export async function dropSecondStep(accountId: string): Promise<void> {
  await transaction(async (client) => {
    await client.query('DELETE FROM second_steps WHERE account_id = $1', [accountId])
    await client.query('DELETE FROM spare_codes WHERE account_id = $1', [accountId])
  })
  noteEvent('second step ended', { accountId })
}

/** Says that somebody has typed the right password of an account, for the page that asks for the code. */
export function waitForSecondStep(accountId: string): string {
  const until = Date.now() + waitingMinutes * 60_000
  return `${accountId}.${until}.${sign(`second step ${accountId} ${until}`)}`
}

/** The account that waits so; null where nobody does, or for too long. */
export function accountWaiting(text: string): string | null {
  const [accountId, until, signature] = text.split('.')
  if (!accountId || !until || !signature || !(Number(until) > Date.now())) return null
  return isSigned(`second step ${accountId} ${until}`, signature) ? accountId : null
}

/**
 * Takes the second step: a code of the app, or a spare one.
 * @throws Problem `wrong-code`, `too-many-attempts`
 */
export async function takeSecondStep(accountId: string, code: string): Promise<void> {
  const typed = plain(code)
  const taken = await guessing(accountId, () =>
    transaction(
      async (client) =>
        (await takeCode(client, accountId, typed, true)) ?? (await takeSpareCode(client, accountId, typed)),
    ),
  )
  if (!taken) {
    noteEvent('second step refused', { accountId })
    throw new Problem('wrong-code')
  }
}

/** Secrets of second steps sealed anew with the key of the settings, as `resealSecrets` does for those of hosts. */
export async function resealSecondSteps(oldKey: Buffer): Promise<{ resealed: number; lost: number }> {
  return transaction(async (client) => {
    const told = { resealed: 0, lost: 0 }
    const rows = await many<{ accountId: string; secretSealed: Buffer }>(
      client,
      'SELECT account_id AS "accountId", secret_sealed AS "secretSealed" FROM second_steps FOR UPDATE',
    )
    for (const { accountId, secretSealed } of rows) {
      const next = resealWith(secretSealed, sealedFor(accountId), oldKey)
      if (next === 'lost') told.lost += 1
      else if (next !== 'as it is') {
        await client.query('UPDATE second_steps SET secret_sealed = $2 WHERE account_id = $1', [
          accountId,
          next,
        ])
        told.resealed += 1
      }
    }
    return told
  })
}
