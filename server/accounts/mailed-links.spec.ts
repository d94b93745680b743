import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { type PracticeHost } from '../../practice-host/host'
import { readable } from '../../practice-host/mail'
import { freshDatabase, practiceHost, until } from '../testing/support'
import { beginSession, signIn, signUp } from './accounts'
import {
  askForAddress,
  choosePassword,
  forgotPassword,
  isPasswordLink,
  passwordLink,
  takeAddress,
} from './mailed-links'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: PracticeHost & { end: () => Promise<void> }
beforeAll(async () => {
  host = await practiceHost()
  process.env.RUBRICANT_SMTP = `smtp://127.0.0.1:${host.mailPort}`
  database = await freshDatabase()
})
afterAll(async () => {
  await database.close()
  await host.end()
  delete process.env.RUBRICANT_SMTP
})

const origin = 'https://rubricant.example'
const password = 'three wet herons'
async function account() {
  const email = `${randomUUID()}@saltpan.example`
  return { ...(await signUp(email, password))!, email }
}
const lettersTo = (to: string) => host.letterbox.letters.filter((one) => one.to === to)
const tokenIn = (source: string) => /\/new-(?:password|address)\/([\w-]+)/.exec(readable(source))![1]!

describe('a forgotten password', () => {
  test('is chosen anew by a link that is good once, and ends every session', async () => {
    const { email, id } = await account()
    await beginSession({ id })
    await forgotPassword(email, origin, '192.0.2.1')
    await until(() => lettersTo(email).length === 1)
    const token = tokenIn(lettersTo(email)[0]!.source)
    expect(readable(lettersTo(email)[0]!.source)).toContain(`${origin}/new-password/`)
    await expect(choosePassword(token, 'password12')).rejects.toMatchObject({ code: 'common-password' })
    await choosePassword(token, 'five tall herons')
    expect(await isPasswordLink(token)).toBe(false)
    await expect(choosePassword(token, 'six tall herons')).rejects.toMatchObject({ code: 'link-ended' })
    const { rows } = await pool().query('SELECT 1 FROM sessions WHERE account_id = $1', [id])
    expect(rows).toEqual([])
    expect((await signIn(email, 'five tall herons', '192.0.2.1')).id).toBe(id)
    // What the table holds opens nothing.
    const { rows: kept } = await pool().query<{ n: number }>('SELECT count(*)::int AS n FROM mailed_links WHERE token_hash = $1', [Buffer.from(token)]) // prettier-ignore
    expect(kept[0]!.n).toBe(0)
  })

  test('is asked for again: the first link gives nothing any more; nor does one that ran out', async () => {
    const { email } = await account()
    const [first, second] = [await passwordLink(email, origin), await passwordLink(email, origin)]
    const tokenOf = (link: string | null) => link!.split('/').pop()!
    expect(await isPasswordLink(tokenOf(first))).toBe(false)
    expect(await isPasswordLink(tokenOf(second))).toBe(true)
    await pool().query("UPDATE mailed_links SET ends_at = now() - interval '1 s'")
    expect(await isPasswordLink(tokenOf(second))).toBe(false)
    await expect(choosePassword(tokenOf(second), 'six tall herons')).rejects.toMatchObject({
      code: 'link-ended',
    })
  })

  test('of nobody sends nothing, and is answered the same; nobody is written to without end', async () => {
    const nobody = `${randomUUID()}@saltpan.example`
    await forgotPassword(nobody, origin, '192.0.2.2')
    expect(await passwordLink(nobody, origin)).toBeNull()
    const { email } = await account()
    for (let times = 0; times < 3; times++) await forgotPassword(email, origin, '192.0.2.3')
    await expect(forgotPassword(email, origin, '192.0.2.4')).rejects.toMatchObject({
      code: 'too-many-attempts',
    })
    await until(() => lettersTo(email).length === 3)
    expect(lettersTo(nobody)).toEqual([])
  })
})

describe('another address', () => {
  test('is taken by a letter sent there, after the password; the old one hears of it', async () => {
    const { id, email } = await account()
    const next = `new.${email}`
    await expect(askForAddress({ id, email }, next, 'wrong password', origin)).rejects.toMatchObject({ code: 'wrong-own-password' }) // prettier-ignore
    await askForAddress({ id, email }, next, password, origin)
    const token = tokenIn(lettersTo(next)[0]!.source)
    // A link to take an address chooses no password.
    await expect(choosePassword(token, 'six tall herons')).rejects.toMatchObject({ code: 'link-ended' })
    expect(await takeAddress(token)).toBe(next)
    await expect(takeAddress(token)).rejects.toMatchObject({ code: 'link-ended' })
    await until(() => lettersTo(email).length === 1)
    expect((await signIn(next, password, '192.0.2.5')).id).toBe(id)
    await expect(signIn(email, password, '192.0.2.5')).rejects.toMatchObject({ code: 'wrong-password' })
  })

  test('that somebody else has by then is not taken', async () => {
    const [mine, theirs] = [await account(), `${randomUUID()}@saltpan.example`]
    await askForAddress(mine, theirs, password, origin)
    await signUp(theirs, password)
    await expect(takeAddress(tokenIn(lettersTo(theirs)[0]!.source))).rejects.toMatchObject({
      code: 'address-taken',
    })
    expect((await signIn(mine.email, password, '192.0.2.6')).id).toBe(mine.id)
  })
})
