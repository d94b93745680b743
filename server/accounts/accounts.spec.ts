import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals'
import { accountOf, beginSession, endSession, knownBrowserOf, originOf, signIn, signUp } from './accounts'
import { log } from '../platform/log'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase } from '../testing/support'

process.env.RUBRICANT_SIGN_UPS = '20'
process.env.RUBRICANT_CLASS_SIGN_UPS = '30'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

const password = 'three wet herons'
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: { code?: string }) => error.code ?? String(error),
  )
/** The cookies of an answer as the browser sends them with its next request. */
const withCookies = (headers: Headers) =>
  new Request('http://x/', {
    headers: {
      cookie: headers
        .getSetCookie()
        .map((one) => one.split(';')[0])
        .join('; '),
    },
  })

describe('making an account', () => {
  test('one address, one account; whether there was one is not told; the password is kept as a hash', async () => {
    expect(await signUp('keeper@saltpan.example', password)).toMatchObject({
      email: 'keeper@saltpan.example',
    })
    expect(await signUp('keeper@saltpan.example', 'another long one')).toBeNull()
    expect(await codeOf(signIn('keeper@saltpan.example', 'another long one', '192.0.2.1'))).toBe(
      'wrong-password',
    )
    const { rows } = await pool().query<{ password_hash: string }>(
      `SELECT password_hash FROM accounts WHERE email = 'keeper@saltpan.example'`,
    )
    expect(rows[0]!.password_hash).toMatch(/^\$argon2id\$/)
  })

  test.each(['1234567890', 'passwordpassword', 'Qwertyuiop', 'qwertyuiop1!', 'iloveyou2024'])(
    'is refused with the common password %s',
    async (common) => expect(await codeOf(signUp('common@saltpan.example', common))).toBe('common-password'),
  )

  test('is limited for one origin, however many ask at once', async () => {
    const tries = Array.from({ length: 30 }, (_, index) =>
      codeOf(signUp(`many${index}@saltpan.example`, password, '198.51.100.7')),
    )
    const codes = await Promise.all(tries)
    expect(codes.filter((code) => code === 'done')).toHaveLength(20)
    expect(codes.filter((code) => code === 'too-many-attempts')).toHaveLength(10)
    // A class has one origin, and an address that was handed out to it; that has an end as well.
    const pupils = Array.from({ length: 35 }, (_, index) =>
      codeOf(signUp(`pupil${index}@saltpan.example`, password, '198.51.100.7', true)),
    )
    expect((await Promise.all(pupils)).filter((code) => code === 'done')).toHaveLength(30)
  })
})

describe('guessing a password', () => {
  test('in parallel gets no more tries than one by one', async () => {
    await signUp('parallel@saltpan.example', password)
    const codes = await Promise.all(
      Array.from({ length: 40 }, (_, index) =>
        codeOf(signIn('parallel@saltpan.example', `guess ${index}`, '192.0.2.2')),
      ),
    )
    expect(codes.filter((code) => code === 'wrong-password')).toHaveLength(6)
  })

  test('makes the wait of that origin longer each time, and locks nobody else out', async () => {
    const email = 'owner@saltpan.example'
    const account = (await signUp(email, password))!
    const browser = knownBrowserOf(withCookies(await beginSession(account)))
    for (let guess = 0; guess < 6; guess++) await codeOf(signIn(email, 'wrong', '192.0.2.3'))
    const waits: number[] = []
    for (let guess = 0; guess < 8; guess++)
      await signIn(email, password, '192.0.2.3').catch((error: Error) =>
        waits.push(
          Number(/(\d+) (seconds|minutes)/.exec(error.message)![1]) *
            (error.message.includes('minutes') ? 60 : 1),
        ),
      )
    expect(waits).toHaveLength(8)
    expect(waits[7]!).toBeGreaterThan(waits[0]!)
    // The owner at home, and at the very origin the guesses come from in a browser used before.
    expect(await signIn(email, password, '192.0.2.4')).toEqual(account)
    expect(await signIn(email, password, '192.0.2.3', browser)).toEqual(account)
    const other = (await signUp('elsewhere@saltpan.example', password))!
    const foreign = knownBrowserOf(withCookies(await beginSession(other)))
    expect(await codeOf(signIn(email, password, '192.0.2.3', foreign))).toBe('too-many-attempts')
  })

  test('at many accounts from one origin is limited as well; signing in rightly is not', async () => {
    await signUp('right@saltpan.example', password)
    for (let time = 0; time < 45; time++) await signIn('right@saltpan.example', password, '192.0.2.5')
    const codes: string[] = []
    for (let guess = 0; guess < 52; guess++)
      codes.push(await codeOf(signIn(`nobody${guess}@saltpan.example`, 'wrong', '192.0.2.5')))
    expect(codes.filter((code) => code === 'wrong-password')).toHaveLength(40)
    // Those of a school who go on trying do not make each other wait longer.
    const { rows } = await pool().query<{ left: string }>(
      `SELECT (expire - extract(epoch FROM now()) * 1000) / 1000 AS left FROM rate_limits WHERE key LIKE 'guess-from:%192.0.2.5'`,
    )
    expect(Number(rows[0]!.left)).toBeLessThanOrEqual(15 * 60)
  }, 30_000)

  test.each([
    ['192.0.2.1', '192.0.2.1'],
    ['::ffff:192.0.2.1', '192.0.2.1'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
    ['2001:db8::6', '2001:db8:0:0::/64'],
    ['::1', '0:0:0:0::/64'],
  ])('counts %s as %s', (address, origin) => expect(originOf(address)).toBe(origin))
})

describe('a session', () => {
  const count = async () => Number((await pool().query('SELECT count(*) AS n FROM sessions')).rows[0]!.n)

  test('ends the one it takes the place of', async () => {
    const { accountId } = await accountWithSite('Home')
    const account = { id: accountId, email: '' }
    const first = withCookies(await beginSession(account))
    expect(await accountOf(first)).toMatchObject({ id: accountId })
    const before = await count()
    const second = withCookies(await beginSession(account, first))
    expect(await count()).toBe(before)
    expect(await accountOf(first)).toBeNull()
    expect(await accountOf(second)).toMatchObject({ id: accountId })
  })

  test('that nobody uses ends; one that is used goes on', async () => {
    const { accountId } = await accountWithSite('Home')
    const request = withCookies(await beginSession({ id: accountId }))
    const seen = (ago: string) =>
      pool().query(`UPDATE sessions SET seen_at = now() - $2::interval WHERE account_id = $1`, [
        accountId,
        ago,
      ])
    await seen('13 days')
    expect(await accountOf(request)).not.toBeNull()
    const { rows } = await pool().query(
      'SELECT seen_at > now() - interval $$1 minute$$ AS fresh FROM sessions WHERE account_id = $1',
      [accountId],
    )
    expect(rows[0]!.fresh).toBe(true)
    await seen('15 days')
    expect(await accountOf(request)).toBeNull()
  })

  test('of a cookie that is there twice is nobody’s: one of them was set by somebody else', async () => {
    const { accountId } = await accountWithSite('Home')
    const { headers } = withCookies(await beginSession({ id: accountId }))
    const cookie = headers.get('cookie')!
    const session = cookie.split('; ').find((one) => one.includes('session'))!
    const twice = new Request('http://x/', { headers: { cookie: `${cookie}; ${session}` } })
    expect(await accountOf(twice)).toBeNull()
  })
})

test('the log tells who came in and who was turned away, and nothing that would let anybody in', async () => {
  const lines: string[] = []
  const spy = jest.spyOn(log, 'info').mockImplementation((...line: unknown[]) => void lines.push(JSON.stringify(line)))
  try {
    const { id } = (await signUp('told@saltpan.example', password))!
    expect(await codeOf(signIn('told@saltpan.example', 'not it at all', '192.0.2.77'))).toBe('wrong-password')
    expect(await codeOf(signIn('nobody.told@saltpan.example', 'not it at all', '192.0.2.77'))).toBe('wrong-password')
    const session = await beginSession(await signIn('told@saltpan.example', password, '192.0.2.77'))
    await endSession(withCookies(session))
    const events = lines.map((line) => (JSON.parse(line) as [{ event: string; accountId?: string | null }])[0])
    expect(events).toEqual([
      { event: 'account made', accountId: id },
      { event: 'sign-in refused', accountId: id },
      { event: 'sign-in refused', accountId: null },
      { event: 'signed in', accountId: id },
      { event: 'signed out' },
    ])
    const token = session.getSetCookie()[0]!.split(/[=;]/)[1]!
    for (const secret of [password, 'not it', token, 'saltpan']) expect(lines.join()).not.toContain(secret)
  } finally {
    spy.mockRestore()
  }
}) // prettier-ignore
