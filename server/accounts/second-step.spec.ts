import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, afterEach, beforeAll, beforeEach, expect, jest, test } from '@jest/globals'
import { Secret, TOTP } from 'otpauth'
import { pool, seal } from '#server/platform'
import { keyFor } from '../platform/config'
import { freshDatabase } from '../testing/support'
import { signUp } from './accounts'
import {
  accountWaiting,
  beginSecondStep,
  confirmSecondStep,
  dropSecondStep,
  endSecondStep,
  resealSecondSteps,
  secondStepState,
  takeSecondStep,
  waitForSecondStep,
} from './second-step'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
/** A clock of the tests' own: codes change every half minute. */
let now: number
beforeEach(() => {
  now = 1_800_000_000_000
  jest.spyOn(Date, 'now').mockImplementation(() => now)
})
afterEach(() => {
  jest.restoreAllMocks()
})

const password = 'three wet herons'
const account = async () => (await signUp(`${randomUUID()}@saltpan.example`, password))!
const codeOf = (secret: string, at = now) =>
  new TOTP({ secret: Secret.fromBase32(secret.replaceAll(' ', '')) }).generate({ timestamp: at })
async function withSecondStep() {
  const who = await account()
  const { secret } = await beginSecondStep(who, password)
  const spare = await confirmSecondStep(who.id, codeOf(secret))
  now += 30_000
  return { ...who, secret, spare }
}
const wrong = { code: 'wrong-code' }

test('it counts once a code was typed, asks for the password, and gives ten spare codes', async () => {
  const who = await account()
  await expect(beginSecondStep(who, 'another password')).rejects.toMatchObject({ code: 'wrong-own-password' })
  const { secret, picture } = await beginSecondStep(who, password)
  expect(picture).toMatch(/^<svg/)
  expect(await secondStepState(who.id)).toBe('begun')
  await expect(confirmSecondStep(who.id, '000000')).rejects.toMatchObject(wrong)
  // Nobody signs in with what is not confirmed.
  await expect(takeSecondStep(who.id, codeOf(secret))).rejects.toMatchObject(wrong)
  const spare = await confirmSecondStep(who.id, codeOf(secret))
  expect(new Set(spare).size).toBe(10)
  expect(await secondStepState(who.id)).toBe('on')
  await expect(beginSecondStep(who, password)).rejects.toMatchObject({ code: 'changed-elsewhere' })
  const { rows } = await pool().query<{ told: string }>('SELECT encode(secret_sealed, $1) AS told FROM second_steps WHERE account_id = $2', ['escape', who.id]) // prettier-ignore
  expect(rows[0]!.told).not.toContain(secret.replaceAll(' ', ''))
})

test('a code is taken once, a moment early or late, and no older one after it', async () => {
  const { id, secret } = await withSecondStep()
  const early = codeOf(secret, now + 30_000)
  const right = codeOf(secret)
  await takeSecondStep(id, ` ${right.slice(0, 3)} ${right.slice(3)} `)
  await expect(takeSecondStep(id, right)).rejects.toMatchObject(wrong)
  await takeSecondStep(id, early)
  now += 90_000
  await takeSecondStep(id, codeOf(secret, now - 30_000))
  await expect(takeSecondStep(id, codeOf(secret, now - 60_000))).rejects.toMatchObject(wrong)
  // The same code in two windows at once lets one of them in.
  now += 60_000
  const both = await Promise.allSettled([
    takeSecondStep(id, codeOf(secret)),
    takeSecondStep(id, codeOf(secret)),
  ])
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
})

test('a spare code is taken once, by its own account', async () => {
  const [mine, theirs] = [await withSecondStep(), await withSecondStep()]
  await expect(takeSecondStep(theirs.id, mine.spare[0]!)).rejects.toMatchObject(wrong)
  await takeSecondStep(mine.id, mine.spare[0]!.toUpperCase().replace('-', ' '))
  await expect(takeSecondStep(mine.id, mine.spare[0]!)).rejects.toMatchObject(wrong)
  await takeSecondStep(mine.id, mine.spare[1]!)
})

test('guesses are few, and wait longer and longer', async () => {
  const { id, secret } = await withSecondStep()
  for (let guess = 0; guess < 6; guess++)
    await expect(takeSecondStep(id, '123456')).rejects.toMatchObject(wrong)
  await expect(takeSecondStep(id, codeOf(secret))).rejects.toMatchObject({ code: 'too-many-attempts' })
})

test('a right password waits ten minutes for it, and nobody makes that up', async () => {
  const { id } = await account()
  const waiting = waitForSecondStep(id)
  expect(accountWaiting(waiting)).toBe(id)
  const [, until, signature] = waiting.split('.')
  expect(accountWaiting(`${randomUUID()}.${until}.${signature}`)).toBeNull()
  expect(accountWaiting(`${id}.${Number(until) + 1}.${signature}`)).toBeNull()
  for (const odd of ['', '..', `${id}.x.${signature}`]) expect(accountWaiting(odd)).toBeNull()
  now += 10 * 60_000
  expect(accountWaiting(waiting)).toBeNull()
})

test('it is turned off with the password, or by whoever runs the server', async () => {
  const { id, spare } = await withSecondStep()
  await expect(endSecondStep(id, 'another password')).rejects.toMatchObject({ code: 'wrong-own-password' })
  await endSecondStep(id, password)
  expect(await secondStepState(id)).toBe('off')
  await expect(takeSecondStep(id, spare[2]!)).rejects.toMatchObject(wrong)
  const other = await withSecondStep()
  await dropSecondStep(other.id)
  expect(await secondStepState(other.id)).toBe('off')
})

test('sealed with a key from before, it is sealed anew, and goes on as it was', async () => {
  const { id, secret } = await withSecondStep()
  const [old, lost] = [randomBytes(32), randomBytes(32)]
  const sealWith = (key: Buffer) =>
    pool().query('UPDATE second_steps SET secret_sealed = $2 WHERE account_id = $1', [
      id,
      seal(secret.replaceAll(' ', ''), `second step of ${id}`, keyFor(key, 'sealing')),
    ])
  await sealWith(old)
  await expect(takeSecondStep(id, codeOf(secret))).rejects.toMatchObject({ code: 'key-changed' })
  expect(await resealSecondSteps(old)).toEqual({ resealed: 1, lost: 0 })
  await takeSecondStep(id, codeOf(secret))
  // What is sealed with the key of the settings stays.
  expect(await resealSecondSteps(old)).toEqual({ resealed: 0, lost: 0 })
  await sealWith(lost)
  expect(await resealSecondSteps(old)).toEqual({ resealed: 0, lost: 1 })
})
