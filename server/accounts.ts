import { createHash, randomBytes } from 'node:crypto'
import argon2 from '@node-rs/argon2'
import { config } from '#server/config'
import {
  type Account,
  clearFailures,
  countFailures,
  deleteSession,
  findAccount,
  findSession,
  insertAccount,
  insertFailure,
  insertSession,
} from './database/accounts'
import { DatabaseError, databaseError, pool } from './database/pool'
import { Problem } from './problem'

export type { Account } from './database/accounts'

const sessionDays = 30
const sessionCookie = 'rubricant_session'
const attempts = { minutes: 15, perAddress: 8, perOrigin: 40 }

const { hash, verify } = argon2
/** argon2id with the parameters of RFC 9106 §4, second choice, sized for a server that also works. */
const strength = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const
/** Checked when no such account exists, so that the time taken tells nothing. */
let decoy: Promise<string> | null = null

export const hashPassword = (password: string): Promise<string> => hash(password, strength)

const tokenHash = (token: string) => createHash('sha256').update(token).digest()

/** Makes an account; throws a Problem when the address has one. */
export async function signUp(email: string, password: string): Promise<Account> {
  try {
    return await insertAccount(pool(), email, await hashPassword(password))
  } catch (error) {
    const known = databaseError(error)
    if (known instanceof DatabaseError && known.code === 'duplicate')
      throw new Problem('address-taken', 'There is an account with this e-mail address. Sign in instead.')
    throw known
  }
}

/**
 * Checks an address and a password. After too many failures, for the address or from one origin,
 * even the right password is refused for a while.
 */
export async function signIn(email: string, password: string, origin: string): Promise<Account> {
  const keys = { address: `address:${email}`, origin: `origin:${origin}` }
  const failures = await Promise.all([
    countFailures(pool(), keys.address, attempts.minutes),
    countFailures(pool(), keys.origin, attempts.minutes),
  ])
  if (failures[0] >= attempts.perAddress || failures[1] >= attempts.perOrigin)
    throw new Problem(
      'too-many-attempts',
      `Too many failed attempts. Try again in ${attempts.minutes} minutes.`,
      429,
    )
  const account = await findAccount(pool(), email)
  decoy ??= hashPassword(randomBytes(16).toString('hex'))
  const right = await verify(account?.passwordHash ?? (await decoy), password)
  if (!account || !right) {
    await insertFailure(pool(), [keys.address, keys.origin])
    throw new Problem('wrong-password', 'This e-mail address and password do not belong together.', 400)
  }
  await clearFailures(pool(), keys.address)
  return { id: account.id, email: account.email }
}

/** Begins a session and returns the cookie that carries it. */
export async function beginSession(account: Account): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  await insertSession(pool(), tokenHash(token), account.id, sessionDays)
  return cookie(token, sessionDays * 24 * 60 * 60)
}

/** Ends the request's session and returns the cookie that clears it. */
export async function endSession(request: Request): Promise<string> {
  const token = sessionToken(request)
  if (token) await deleteSession(pool(), tokenHash(token))
  return cookie('', 0)
}

function cookie(value: string, maxAgeSeconds: number): string {
  const secure = config().secureCookies ? '; Secure' : ''
  return `${sessionCookie}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${maxAgeSeconds}${secure}`
}

/** The session token a request carries, or null. */
export function sessionToken(request: Request): string | null {
  const pairs = (request.headers.get('cookie') ?? '').split(/;\s*/)
  const pair = pairs.find((one) => one.startsWith(`${sessionCookie}=`))
  return pair?.slice(sessionCookie.length + 1) || null
}

/** Whose request this is, or null. */
export async function accountOf(request: Request): Promise<Account | null> {
  const token = sessionToken(request)
  return token ? findSession(pool(), tokenHash(token)) : null
}

/** A short name for a session that gives nothing away, for signing addresses that live as long as it. */
export const sessionName = (token: string): string => tokenHash(token).toString('base64url')

/** The account of a session by its short name. */
export const accountOfSessionName = (name: string): Promise<Account | null> =>
  findSession(pool(), Buffer.from(name, 'base64url'))
