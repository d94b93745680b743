import { RateLimiterMemory, RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import { config } from './config'
import { pool } from './pool'
import { Problem } from '#core/problems'

/** How often something may be done by one key before it has to wait. */
interface Rule {
  readonly points: number
  readonly perSeconds: number
}

const minutes = (count: number) => count * 60

const rules = {
  /** Guesses at one account from one origin, or from one browser that its owner has used. */
  guess: () => ({ points: 6, perSeconds: minutes(5) }),
  /** Guesses at any account from one origin. */
  'guess-from': () => ({ points: 40, perSeconds: minutes(15) }),
  /** How often the two above were refused: what the delay grows with. */
  'too-many': () => ({ points: 1_000_000, perSeconds: minutes(24 * 60) }),
  'sign-up': () => ({ points: config().signUpsAnHour, perSeconds: minutes(60) }),
  /** The same of a class, who come from one origin with an address that was handed out to them. */
  'class-sign-up': () => ({ points: config().classSignUpsAnHour, perSeconds: minutes(60) }),
  /** Letters that one address, or one account, is sent; and that are asked for from one origin. */
  letter: () => ({ points: 3, perSeconds: minutes(15) }),
  'letter-from': () => ({ points: 20, perSeconds: minutes(15) }),
  'destination-test': () => ({ points: 20, perSeconds: minutes(1) }),
  /** Notes from one origin, of whoever holds the address of a look. */
  note: () => ({ points: 40, perSeconds: minutes(10) }),
  following: () => ({ points: 6, perSeconds: minutes(10) }),
  /** Pictures that are taken from other sites. */
  // A delivery asks for more than reading back what it sent.
  readingBack: () => ({ points: 60, perSeconds: minutes(10) }),
  fetching: () => ({ points: 300, perSeconds: minutes(10) }),
} satisfies Record<string, () => Rule>

type Name = keyof typeof rules

function limiter(name: Name): RateLimiterPostgres {
  const { points, perSeconds } = rules[name]()
  return new RateLimiterPostgres({
    storeClient: pool(),
    storeType: 'pool',
    tableName: 'rate_limits',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix: name,
    points,
    duration: perSeconds,
  })
}

/**
 * Takes one from what a key may still do, atomically and before the thing itself is done, so that many
 * at once are counted as many.
 * @returns seconds to wait where nothing is left, else null
 */
export const take = async (name: Name, key: string): Promise<number | null> =>
  (await refusalOf(name, key))?.wait ?? null

/** @returns seconds to wait, and whether this is the first to be refused since something could be done */
async function refusalOf(name: Name, key: string): Promise<{ wait: number; isFirst: boolean } | null> {
  const one = limiter(name)
  try {
    await one.consume(key)
    return null
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused
    const wait = Math.max(1, Math.ceil(refused.msBeforeNext / 1000))
    return { wait, isFirst: refused.consumedPoints <= one.points + 1 }
  }
}

/**
 * Each try too many makes the wait longer: doubled from half a minute up to an hour. Of an origin only the first in each wait
 * does: those who try again there may be a whole school, of whom one knows nothing of another.
 */
export async function takeWithGrowingDelay(
  name: 'guess' | 'guess-from',
  key: string,
): Promise<number | null> {
  const refusal = await refusalOf(name, key)
  if (!refusal) return null
  const { wait, isFirst } = refusal
  if (name === 'guess-from' && !isFirst) return wait
  const { consumedPoints } = await limiter('too-many').penalty(`${name} ${key}`)
  const delay = Math.min(minutes(60), 30 * 2 ** Math.min(consumedPoints - 1, 7))
  if (delay > wait) await limiter(name).block(key, delay)
  return Math.max(wait, delay)
}

/** Gives back what `take` took: it was no guess. */
export async function giveBack(name: Name, key: string): Promise<void> {
  await limiter(name).reward(key, 1)
}

/** Forgets what a key has done. */
export async function forgive(name: 'guess', key: string): Promise<void> {
  await Promise.all([limiter(name).delete(key), limiter('too-many').delete(`${name} ${key}`)])
}

const inWords = (seconds: number) =>
  seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`

export const tooMany = (what: string, seconds: number) =>
  new Problem('too-many-attempts', { what, wait: inWords(seconds) })

/** Other people's servers are no thing to be asked again and again. */
export async function limitFollowing(
  accountId: string,
  what = 'The addresses outside were followed several times just now.',
): Promise<void> {
  const wait = await take('following', accountId)
  if (wait !== null) throw tooMany(what, wait)
}

/** Nor is what was sent to it, as often as things are sent. */
export async function limitReadingBack(accountId: string): Promise<void> {
  const wait = await take('readingBack', accountId)
  if (wait !== null) throw tooMany('What was sent was looked at many times just now.', wait)
}

/** Nor are their pictures. */
export async function limitFetching(accountId: string): Promise<void> {
  const wait = await take('fetching', accountId)
  if (wait !== null) throw tooMany('Many pictures were taken from other sites just now.', wait)
}

/** A host is no thing to be asked again and again through this server. */
export async function limitDestinationTests(accountId: string): Promise<void> {
  const wait = await take('destination-test', accountId)
  if (wait !== null) throw tooMany('That was many tests of destinations in a short time.', wait)
}

let requests: RateLimiterMemory | null = null

/**
 * Counts a request of an account. In this process's memory: asking the database would cost as much as most answers do.
 * @returns seconds to wait where it has asked too often in the last minute, else null
 */
export async function countRequest(accountId: string): Promise<number | null> {
  requests ??= new RateLimiterMemory({ points: config().perAccount.requestsAMinute, duration: minutes(1) })
  try {
    await requests.consume(accountId)
    return null
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused
    return Math.max(1, Math.ceil(refused.msBeforeNext / 1000))
  }
}
