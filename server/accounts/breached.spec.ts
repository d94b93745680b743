import { createHash } from 'node:crypto'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { freshDatabase } from '../testing/support'
import { signUp } from './accounts'
import { changePassword } from './own-account'

const stolen = 'the terns were here first'
const own = 'nobody has this one, at 4'
let folder: string
let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-stolen-'))
  const file = path.join(folder, 'stolen.txt')
  const hash = createHash('sha1').update(stolen).digest('hex').toUpperCase()
  await writeFile(
    file,
    ['0'.repeat(40), hash, 'F'.repeat(40)]
      .sort()
      .map((one) => `${one}:2\n`)
      .join(''),
  )
  process.env.RUBRICANT_BREACHED_PASSWORDS = file
  database = await freshDatabase()
})
afterAll(async () => {
  await database.close()
  await rm(folder, { recursive: true })
})

test('a password that was stolen somewhere is taken neither for an account nor later', async () => {
  await expect(signUp('keeper@saltpan.example', stolen)).rejects.toMatchObject({ code: 'breached-password', status: 422 })
  const account = (await signUp('keeper@saltpan.example', own))!
  const here = new Request('http://127.0.0.1:4600/account')
  await expect(changePassword(account, own, stolen, here)).rejects.toMatchObject({
    code: 'breached-password',
    detail: { field: 'next' },
  })
  await changePassword(account, own, `${own} and more`, here)
}) // prettier-ignore

test('without its list no password is taken for one that is not on it', async () => {
  await rm(path.join(folder, 'stolen.txt'))
  await expect(signUp('mate@saltpan.example', own)).rejects.toMatchObject({ code: 'ENOENT' })
})
