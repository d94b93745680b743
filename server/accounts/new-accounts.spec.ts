import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { pool, readConfig } from '#server/platform'
import { type PracticeHost } from '../../practice-host/host'
import { readable } from '../../practice-host/mail'
import { freshDatabase, practiceHost, until } from '../testing/support'
import { signIn, signUp } from './accounts'
import { accountLink, askedAddress, askForAccount, makeAccount } from './new-accounts'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: PracticeHost & { end: () => Promise<void> }
beforeAll(async () => {
  host = await practiceHost()
  process.env.RUBRICANT_SMTP = `smtp://127.0.0.1:${host.mailPort}`
  process.env.RUBRICANT_ACCOUNTS = 'confirmed'
  database = await freshDatabase()
})
afterAll(async () => {
  await database.close()
  await host.end()
  delete process.env.RUBRICANT_SMTP
  delete process.env.RUBRICANT_ACCOUNTS
})

const origin = 'https://rubricant.example'
const newAddress = () => `${randomUUID()}@saltpan.example`
const lettersTo = (to: string) =>
  host.letterbox.letters.filter((one) => one.to === to).map(({ source }) => readable(source))
const tokenIn = (letter: string) => /\/new-account\/([\w-]+)/.exec(letter)![1]!

test('an account is made by a letter, by whoever holds it, once', async () => {
  const email = newAddress()
  await askForAccount(email, '/invitations/x', origin, '192.0.2.1')
  // Until then there is none, and nobody makes one without the letter.
  await expect(signIn(email, 'five tall herons', '192.0.2.1')).rejects.toMatchObject({
    code: 'wrong-password',
  })
  await expect(signUp(email, 'five tall herons', '192.0.2.1')).rejects.toMatchObject({ code: 'closed' })
  await until(() => lettersTo(email).length === 1)
  const token = tokenIn(lettersTo(email)[0]!)
  expect(await askedAddress(token)).toBe(email)
  await expect(makeAccount(token, 'password12')).rejects.toMatchObject({ code: 'common-password' })
  const { account, next } = await makeAccount(token, 'five tall herons')
  expect(next).toBe('/invitations/x')
  expect((await signIn(email, 'five tall herons', '192.0.2.1')).id).toBe(account.id)
  expect(await askedAddress(token)).toBeNull()
  await expect(makeAccount(token, 'six tall herons')).rejects.toMatchObject({ code: 'link-ended' })
})

test('of an address that has one the letter says so, and whoever asked learns nothing', async () => {
  const email = newAddress()
  await signUp(email, 'three wet herons')
  expect(await askForAccount(email, '/sites', origin, '192.0.2.2')).toBeUndefined()
  await until(() => lettersTo(email).length === 1)
  expect(lettersTo(email)[0]).toContain('It has one: sign in at')
  expect(lettersTo(email)[0]).not.toContain('/new-account/')
})

test('two letters to one address make one account; a link that ran out makes none', async () => {
  const email = newAddress()
  for (let times = 0; times < 2; times++) await askForAccount(email, '/sites', origin, '192.0.2.3')
  await until(() => lettersTo(email).length === 2)
  const tokens = lettersTo(email).map(tokenIn)
  const good = await Promise.all(tokens.map(askedAddress))
  expect(good.filter((one) => one !== null)).toEqual([email])
  await pool().query("UPDATE asked_accounts SET ends_at = now() - interval '1 s' WHERE email = $1", [email])
  for (const token of tokens)
    await expect(makeAccount(token, 'five tall herons')).rejects.toMatchObject({ code: 'link-ended' })
})

test('an account that was made meanwhile is not taken', async () => {
  const email = newAddress()
  const token = tokenIn(await accountLink(email, '/sites', origin))
  await signUp(email, 'three wet herons')
  await expect(makeAccount(token, 'five tall herons')).rejects.toMatchObject({ code: 'address-taken' })
  await signIn(email, 'three wet herons', '192.0.2.4')
})

test('nobody is written to without end', async () => {
  const email = newAddress()
  for (let times = 0; times < 3; times++) await askForAccount(email, '/sites', origin, '192.0.2.5')
  await expect(askForAccount(email, '/sites', origin, '192.0.2.6')).rejects.toMatchObject({
    code: 'too-many-attempts',
  })
})

test('who may make an account follows from the settings', () => {
  const key = Buffer.alloc(32).toString('base64')
  const base = { DATABASE_URL: 'postgres://x/y', RUBRICANT_KEY: key }
  const signUpOf = (more: NodeJS.ProcessEnv) => readConfig({ ...base, ...more } as NodeJS.ProcessEnv).signUp
  const smtp = { RUBRICANT_SMTP: 'smtp://mail.example' }
  expect(signUpOf({})).toBe('open')
  expect(signUpOf(smtp)).toBe('confirmed')
  expect(signUpOf({ ...smtp, RUBRICANT_DEMO: 'true', PRACTICE_PASSWORD: 'x' })).toBe('open')
  expect(signUpOf({ ...smtp, RUBRICANT_ACCOUNTS: 'open' })).toBe('open')
  expect(signUpOf({ RUBRICANT_ACCOUNTS: 'closed' })).toBe('closed')
  expect(() => signUpOf({ RUBRICANT_ACCOUNTS: 'confirmed' })).toThrow('needs RUBRICANT_SMTP')
})
