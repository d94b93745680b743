import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { config, keyFor } from '../../platform/config'
import { pool } from '../../platform/pool'
import { seal } from '../../platform/secrets'
import { accountWithSite, freshDatabase } from '../../testing/support'
import { resealSecrets } from './reseal'
import { accountKeyUse, credentialsOf, publicKeyOf, sealedFor } from './sign-in'
import { findWebHost, putWebHost } from './web-host-rows'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

test('every secret is sealed anew with another key; what neither opens is told and left', async () => {
  const { accountId } = await accountWithSite('Home')
  const [old, stranger] = [randomBytes(32), randomBytes(32)]
  const hostWith = async (name: string, key: Buffer) => {
    const place = { id: randomUUID(), protocol: 'sftp', host: name, port: 22, account: 'keeper' }
    const secretSealed = seal(`word of ${name}`, sealedFor(place), key)
    await putWebHost(pool(), accountId, { ...place, signIn: 'password', hostKey: 'SHA256:x', secretSealed })
    return place
  }
  const before = await hostWith('before.example', keyFor(old, 'sealing'))
  const now = await hostWith('now.example', config().keys.sealing)
  const lost = await hostWith('lost.example', keyFor(stranger, 'sealing'))
  await publicKeyOf(accountId)
  await pool().query('UPDATE account_keys SET private_sealed = $2 WHERE account_id = $1', [
    accountId,
    seal('a key', accountKeyUse(accountId), keyFor(old, 'sealing')),
  ])
  const wordOf = async (place: typeof now) =>
    (await credentialsOf((await findWebHost(pool(), accountId, place))!, accountId)).password
  await expect(wordOf(before)).rejects.toMatchObject({ code: 'key-changed' })
  expect(await resealSecrets(old)).toEqual({ resealed: 2, lost: 1 })
  expect([await wordOf(before), await wordOf(now)]).toEqual(['word of before.example', 'word of now.example'])
  await expect(wordOf(lost)).rejects.toMatchObject({ code: 'key-changed' })
  expect(await resealSecrets(old)).toEqual({ resealed: 0, lost: 1 })
})
