import { createHash, randomBytes } from 'node:crypto'
import { parseCookie, stringifySetCookie } from 'cookie'
import { Problem } from '#core/problems'
import {
  config,
  ConstraintError,
  databaseError,
  forgive,
  giveBack,
  isSigned,
  noteEvent,
  pool,
  sign,
  take,
  takeWithGrowingDelay,
  tooMany,
} from '#server/platform'
import {
  type Account,
  deleteSession,
  findAccount,
  findSession,
  insertAccount,
  insertSession,
} from './account-rows'
import { hashPassword, refuseGuessable, verifyPassword } from './passwords'

export type { Account } from './account-rows'

const sessionDays = 30
const knownDays = 365

export const tokenHash = (token: string) => createHash('sha256').update(token).digest()

/** Where a request comes from, as limits count it: an IPv6 address by its network, which is one customer's. */
export function originOf(remoteAddress: string): string {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(remoteAddress)
  if (mapped) return mapped[1]!
  if (!remoteAddress.includes(':')) return remoteAddress
  const [head = '', tail = ''] = remoteAddress.split('::')
  const groups = head.split(':').filter(Boolean)
  const behind = tail.split(':').filter(Boolean)
  const filled = [
    ...groups,
    ...Array<string>(Math.max(0, 8 - groups.length - behind.length)).fill('0'),
    ...behind,
  ]
  return `${filled.slice(0, 4).join(':')}::/64`
}

/** Checked when no such account exists, so that the time taken tells nothing. */
let decoy: Promise<string> | null = null

/**
 * Makes an account where the address has none. Whether it had one is not told: the answer is the same,
 * and takes as long.
 * @param isOfClass whether who asks holds an address that was handed out to many: a class comes from one origin
 * @returns the account, or null when the address has one
 */
export async function signUp(
  email: string,
  password: string,
  origin: string | null = null,
  isOfClass = false,
): Promise<Account | null> {
  await refuseGuessable(password, email)
  // From outside; what the server itself makes, it makes.
  if (origin !== null && config().signUp !== 'open') throw new Problem('closed')
  if (origin !== null) {
    const wait = await take(isOfClass ? 'class-sign-up' : 'sign-up', originOf(origin))
    if (wait !== null) throw tooMany('Many accounts have been made from here in a short time.', wait)
  }
  const passwordHash = await hashPassword(password)
  try {
    const account = await insertAccount(pool(), email, passwordHash)
    noteEvent('account made', { accountId: account.id })
    return account
  } catch (error) {
    const known = databaseError(error)
    if (known instanceof ConstraintError && known.code === 'duplicate') return null
    throw known
  }
}

/**
 * Checks an address and a password. Guesses are counted before they are checked, for each account and
 * origin, and each one too many makes the wait longer. Guesses from elsewhere never lock the owner out:
 * a browser that has signed in to the account before is counted by itself.
 * @param knownBrowser what `knownBrowserCookie` left there, or null
 */
export async function signIn(
  email: string,
  password: string,
  remoteAddress: string,
  knownBrowser: string | null = null,
): Promise<Account> {
  const origin = originOf(remoteAddress)
  const account = await findAccount(pool(), email)
  const browser = account && knownBrowser && readKnownBrowser(knownBrowser, account.id)
  const key = browser
    ? `browser ${browser}`
    : `${createHash('sha256').update(email).digest('base64url')} ${origin}`
  const wait =
    (await takeWithGrowingDelay('guess', key)) ??
    (browser ? null : await takeWithGrowingDelay('guess-from', origin))
  if (wait !== null) {
    noteEvent('guesses held back', { accountId: account?.id ?? null })
    throw tooMany('Too many failed attempts.', wait)
  }
  decoy ??= hashPassword(randomBytes(16).toString('hex'))
  const right = await verifyPassword(account?.passwordHash ?? (await decoy), password)
  if (!account || !right) {
    noteEvent('sign-in refused', { accountId: account?.id ?? null })
    throw new Problem('wrong-password')
  }
  await forgive('guess', key)
  if (!browser) await giveBack('guess-from', origin)
  return { id: account.id, email: account.email, name: account.name }
}

/** A cookie's name; behind TLS one that no other port, path or subdomain can set (RFC 6265bis §4.1.3.2). */
const cookieName = (name: string) =>
  config().secureCookies ? `__Host-rubricant_${name}` : `rubricant_${name}`

const cookie = (name: string, value: string, maxAge: number): string =>
  stringifySetCookie(cookieName(name), value, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: config().secureCookies,
    maxAge,
  })

/** A cookie's value; null when it is not there, or there twice: then somebody else has set one of them. */
function readCookie(request: Request, name: string): string | null {
  const header = request.headers.get('cookie') ?? ''
  const wanted = cookieName(name)
  const times = header.split(';').filter((pair) => pair.split('=')[0]!.trim() === wanted).length
  return times === 1 ? parseCookie(header)[wanted] || null : null
}

/** What a browser says it is, in words its owner knows it by; the rest of what it says is nobody's. */
export function browserOf(userAgent: string): string {
  const name = /(Firefox|Edg|OPR|Chrome|Safari)\b/.exec(
    // Each says that it is the others, too: the one that only it says comes first.
    userAgent.replace(/.*\b(Edg|OPR|Firefox)\b.*/s, '$1'),
  )?.[1]
  const system = /\b(Windows|Android|iPhone|iPad|Mac OS X|Linux)\b/.exec(userAgent)?.[1]
  const names: Readonly<Record<string, string>> = { Edg: 'Edge', OPR: 'Opera' }
  return [name && (names[name] ?? name), system && `on ${system}`].filter(Boolean).join(' ')
}

/** Begins a session, in the place of the request's own, and returns the cookies that carry it. */
export async function beginSession(
  account: Pick<Account, 'id'>,
  request: Request | null = null,
): Promise<Headers> {
  const token = randomBytes(32).toString('base64url')
  const replaced = request && sessionToken(request)
  await insertSession(
    pool(),
    tokenHash(token),
    account.id,
    sessionDays,
    replaced ? tokenHash(replaced) : null,
    browserOf(request?.headers.get('user-agent') ?? ''),
  )
  noteEvent('signed in', { accountId: account.id })
  const nonce = randomBytes(12).toString('base64url')
  const known = `${account.id}.${nonce}.${sign(`browser ${account.id} ${nonce}`)}`
  return new Headers([
    ['set-cookie', cookie('session', token, sessionDays * 86_400)],
    ['set-cookie', cookie('known', known, knownDays * 86_400)],
  ])
}

/** The cookie that keeps a right password until the second step is taken; null ends it. */
export const secondStepCookie = (value: string | null): string =>
  cookie('second', value ?? '', value ? 600 : 0)

export const secondStepOf = (request: Request): string => readCookie(request, 'second') ?? ''

/** What tells that this browser has been signed in to an account, for `signIn`. */
export const knownBrowserOf = (request: Request): string | null => readCookie(request, 'known')

/** The browser's own mark, when it is of this account and of our making. */
function readKnownBrowser(value: string, accountId: string): string | null {
  const [id, nonce, signature] = value.split('.')
  if (id !== accountId || !nonce || !signature) return null
  return isSigned(`browser ${id} ${nonce}`, signature) ? nonce : null
}

/** Ends the request's session and returns the cookie that clears it. */
export async function endSession(request: Request): Promise<string> {
  const token = sessionToken(request)
  if (token) {
    await deleteSession(pool(), tokenHash(token))
    noteEvent('signed out')
  }
  return cookie('session', '', 0)
}

/** The session token a request carries, or null. */
export const sessionToken = (request: Request): string | null => readCookie(request, 'session')

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
