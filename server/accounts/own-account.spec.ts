import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { randomUUID } from 'node:crypto'
import { pool } from '../platform/pool'
import { createSite } from '../sites/create'
import { planSite, readOutline } from '#core/plan'
import { freshDatabase } from '../testing/support'
import { putWebHost } from '../deliveries/places/web-host-rows'
import { isSendingFor } from '../deliveries/sending/delivery-rows'
import { insertDestination } from '../deliveries/places/destination-rows'
import { accountOf, beginSession, browserOf, signIn, signUp } from './accounts'
import {
  changePassword,
  endAllSessions,
  endOneSession,
  endOtherSessions,
  leaveAccount,
  listSessions,
} from './own-account'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

const password = 'three wet herons'
const account = async () => (await signUp(`${randomUUID()}@saltpan.example`, password))!
const browser = async (
  of: { id: string; email: string },
  agent = 'Mozilla/5.0 (X11; Linux x86_64) Firefox/150.0',
) => {
  const asked = new Request('http://x/', { headers: { 'user-agent': agent } })
  const cookies = (await beginSession(of, asked)).getSetCookie().map((one) => one.split(';')[0])
  return new Request('http://x/', { headers: { cookie: cookies.join('; ') } })
}
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: { code?: string }) => error.code ?? String(error),
  )

test('a password is changed with the one before it, and everybody else is signed out', async () => {
  const mine = await account()
  const [here, there] = [await browser(mine), await browser(mine)]
  expect(await codeOf(changePassword(mine, 'not it', 'four dry herons', here))).toBe('wrong-own-password')
  expect(await codeOf(changePassword(mine, password, 'password1234', here))).toBe('common-password')
  expect(await accountOf(there)).toMatchObject({ id: mine.id })
  await changePassword(mine, password, 'four dry herons', here)
  expect(await accountOf(here)).toMatchObject({ id: mine.id })
  expect(await accountOf(there)).toBeNull()
  expect(await codeOf(signIn(mine.email, password, '192.0.2.9'))).toBe('wrong-password')
  expect(await codeOf(signIn(mine.email, 'four dry herons', '192.0.2.9'))).toBe('done')
})

test('guessing the password at a browser that was left open takes as long as at the door', async () => {
  const mine = await account()
  const here = await browser(mine)
  const codes: string[] = []
  for (let guess = 0; guess < 14; guess++)
    codes.push(await codeOf(changePassword(mine, `guess ${guess}`, 'four dry herons', here)))
  expect(codes.at(-1)).toBe('too-many-attempts')
  expect(await codeOf(leaveAccount(mine.id, password, isSendingFor))).toBe('too-many-attempts')
})

test('sessions are told apart and ended one by one, or all but this; another’s never', async () => {
  const [mine, theirs] = [await account(), await account()]
  const [here, phone, third] = [
    await browser(mine),
    await browser(mine, 'Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) Version/19.0 Safari/604.1'),
    await browser(mine),
  ]
  const other = await browser(theirs)
  const sessions = await listSessions(mine.id, here)
  expect(sessions.map(({ browser: name, isThis }) => [name, isThis])[0]).toEqual(['Firefox on Linux', true])
  expect(sessions.filter(({ isThis }) => isThis)).toHaveLength(1)
  const onPhone = sessions.find(({ browser: name }) => name === 'Safari on iPhone')!
  const [foreign] = await listSessions(theirs.id, other)
  expect(await codeOf(endOneSession(mine.id, 'not it', onPhone.id))).toBe('wrong-own-password')
  expect(await codeOf(endOtherSessions(mine.id, 'not it', here))).toBe('wrong-own-password')
  expect(await accountOf(phone)).not.toBeNull()
  await endOneSession(mine.id, password, foreign!.id)
  expect(await accountOf(other)).not.toBeNull()
  await endOneSession(mine.id, password, onPhone.id)
  expect(await accountOf(phone)).toBeNull()
  expect(await accountOf(third)).not.toBeNull()
  await endOtherSessions(mine.id, password, here)
  expect(await accountOf(third)).toBeNull()
  expect(await accountOf(here)).not.toBeNull()
  expect(await accountOf(other)).not.toBeNull()
  // Whoever runs the server ends those of one account, without its password.
  expect(await endAllSessions(mine.id)).toBe(1)
  expect([await accountOf(here), await accountOf(other)]).toEqual([null, expect.anything()])
})

test('a password that is little more than the account’s address, or this application’s name, is refused', async () => {
  const mine = await account()
  const [name] = mine.email.split('@')
  const here = await browser(mine)
  for (const guessable of [`${name}${name}`, `${name}@saltpan.example`, `SALTPAN-${name!.toUpperCase()}!1`, 'rubricant2031', 'Rubricant.Rubricant'])
    expect([guessable, await codeOf(changePassword(mine, password, guessable, here))]).toEqual([guessable, 'own-words-password'])
  expect(await codeOf(changePassword(mine, password, `four dry herons of ${name}`, here))).toBe('done')
}) // prettier-ignore

test('an account is left with all that is its own, and nothing of another’s', async () => {
  const [mine, theirs] = [await account(), await account()]
  const make = async (accountId: string) => {
    const siteId = await createSite(accountId, { name: 'Saltpan Chapel', language: 'en', plan: planSite(readOutline('Home\n  A'), 'x') })
    const id = randomUUID()
    const place = { id, protocol: 'sftp', host: 'host.example', port: 22, account: id, signIn: 'password' as const }
    await putWebHost(pool(), accountId, { ...place, hostKey: 'x', secretSealed: Buffer.from('x') })
    await insertDestination(pool(), siteId, { id, webHostId: id, name: 'x', folder: '', publicAddress: 'http://x/' })
    return { siteId, id }
  } // prettier-ignore
  const [ours, kept] = [await make(mine.id), await make(theirs.id)]
  expect(await codeOf(leaveAccount(mine.id, 'not it', isSendingFor))).toBe('wrong-own-password')
  await pool().query("INSERT INTO deliveries (destination_id, state, revision) VALUES ($1, 'running', 1)", [ours.id])
  expect(await codeOf(leaveAccount(mine.id, password, isSendingFor))).toBe('leaving-under-way')
  await pool().query("UPDATE deliveries SET state = 'done'")
  const here = await browser(mine)
  await leaveAccount(mine.id, password, isSendingFor)
  expect(await accountOf(here)).toBeNull()
  for (const [table, column] of [['sites', 'account_id'], ['web_hosts', 'account_id'], ['sessions', 'account_id']] as const)
    expect((await pool().query(`SELECT 1 FROM ${table} WHERE ${column} = $1`, [mine.id])).rows).toEqual([])
  expect((await pool().query('SELECT 1 FROM destinations WHERE id = $1', [kept.id])).rows).toHaveLength(1)
  expect(await codeOf(signIn(mine.email, password, '192.0.2.77'))).toBe('wrong-password')
}) // prettier-ignore

test('a browser is called what its owner calls it', () => {
  const said = {
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0 Safari/537.36 Edg/150.0': 'Edge on Windows',
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0 Safari/537.36': 'Chrome on Linux',
    'Mozilla/5.0 (Macintosh; Intel Mac OS X 15_0) AppleWebKit/605.1.15 Version/19.0 Safari/605.1.15': 'Safari on Mac OS X',
    'curl/8': '',
    '': '',
  } // prettier-ignore
  for (const [agent, name] of Object.entries(said)) expect(browserOf(agent)).toBe(name)
})
