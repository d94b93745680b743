import { beforeEach, describe, expect, test } from '@jest/globals'
import { ClockByHand } from '../parts/clock-by-hand'
import { inNameOf } from './header'
import { inItsName, Session, type Standing, type Whose } from './session'

const ada = { accountId: 'ada', email: 'ada@saltpan.example' }
const ben = { accountId: 'ben', email: 'ben@saltpan.example' }
const nobody = { accountId: null, email: null }

let cookie: Whose | null
let asked: number
let clock: ClockByHand
let session: Session
let stood: Standing[]
/** Until what was asked has been answered. */
const answered = () => new Promise((resolve) => setImmediate(resolve))
beforeEach(() => {
  cookie = ada
  asked = 0
  clock = new ClockByHand()
  const whose = async () => {
    asked += 1
    if (cookie === null) throw new TypeError('no connection')
    return cookie
  }
  session = new Session(whose, clock)
  session.begin('ada')
  stood = []
  session.subscribe(() => stood.push(session.get()))
})

describe('the session of a window', () => {
  test('that has ended is over until its own account is signed in again', async () => {
    cookie = nobody
    session.note(401)
    expect(session.get()).toEqual({ kind: 'out' })
    await answered()
    cookie = ben
    await clock.pass(3_000)
    await answered()
    expect(session.get()).toEqual({ kind: 'other', email: 'ben@saltpan.example' })
    cookie = ada
    await clock.pass(3_000)
    await answered()
    expect(stood.map(({ kind }) => kind)).toEqual(['out', 'other', 'in'])
    // Nothing more is asked from then on.
    const before = asked
    await clock.pass(60_000)
    await answered()
    expect(asked).toBe(before)
  })

  test('is not over for a request that was refused for what it asked, nor while there is no line', async () => {
    session.note(403)
    session.note(404)
    cookie = null
    await session.check()
    expect(stood).toEqual([])
  })

  test('goes on being asked about while the line is down', async () => {
    cookie = null
    session.note(401)
    await answered()
    await clock.pass(3_000)
    await answered()
    expect(session.get()).toEqual({ kind: 'out' })
    cookie = ada
    await clock.pass(3_000)
    await answered()
    expect(session.get()).toEqual({ kind: 'in' })
  })

  test('is nobody’s in a window that works for no account', async () => {
    const other = new Session(async () => ada, clock)
    other.note(401)
    await other.check()
    expect(other.get()).toEqual({ kind: 'in' })
    expect(other.headers).toEqual({})
  })
})

test('requests to this server say in whose name they ask, and no others do', async () => {
  const heard: { url: string; name: string | null; body: string }[] = []
  const bare = (async (request: Request) => {
    heard.push({ url: request.url, name: request.headers.get(inNameOf), body: await request.text() })
    return new Response(null, { status: request.url.endsWith('/changes') ? 401 : 200 })
  }) as typeof fetch
  cookie = nobody
  const ask = inItsName(bare, session, 'http://here.example')
  await ask('http://there.example/changes', { method: 'POST', body: 'x' })
  expect(session.get().kind).toBe('in')
  await ask('http://here.example/changes', { method: 'POST', body: 'y', headers: { a: 'b' } })
  expect(heard).toEqual([
    { url: 'http://there.example/changes', name: null, body: 'x' },
    { url: 'http://here.example/changes', name: 'ada', body: 'y' },
  ])
  expect(session.get()).toEqual({ kind: 'out' })
})
