import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { accountWithSite, freshDatabase, practiceForm, practiceHost, siteOf } from '../testing/support'
import { insertDelivery, listDeliveries } from './delivery-rows'
import { findDestination, listDestinations, listKnownDestinations } from './destination-rows'
import { type DestinationForm, saveDestination, testDestination } from './destinations'
import { addPracticeHost, offersPracticeHost } from './practice'
import { runDelivery } from './run'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: Awaited<ReturnType<typeof practiceHost>>
let owner: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
  host = await practiceHost()
  process.env.RUBRICANT_DEMO = 'true'
  process.env.PRACTICE_SFTP_PORT = String(host.sftpPort)
  process.env.PRACTICE_WEB_PORT = String(host.webPort)
  process.env.PRACTICE_PASSWORD = host.password
})
afterEach(() => host.faults.reset())
afterAll(async () => {
  await host.end()
  await database.close()
})
beforeEach(async () => {
  owner = await accountWithSite('Home\n  Visit\n  Birds')
})

const form = (more: Partial<DestinationForm> = {}): DestinationForm => practiceForm(host, owner.siteId, more)
const save = async (values: DestinationForm, id: string | null = null, whose = owner) =>
  saveDestination(values, id, whose, (await testDestination(values, id, whose, null)).hostKey)
const deliver = async (destinationId: string, whose = owner) => {
  const delivery = await insertDelivery(pool(), destinationId, 1, false)
  expect(await runDelivery(delivery!.id)).toBe(true)
  const { rows } = await pool().query('SELECT state, error_message FROM deliveries WHERE id = $1', [delivery!.id])
  expect(rows).toEqual([{ state: 'done', error_message: null }])
  expect((await siteOf(whose.siteId, whose.accountId)).pages.every(({ addresses }) => addresses.length > 0)).toBe(true)
} // prettier-ignore

test.each([
  ['ftps', () => ({ protocol: 'ftps', port: host.ftpPort }), /^SHA256:/],
  ['ftps-implicit', () => ({ protocol: 'ftps-implicit', port: host.ftpsPort }), /^SHA256:/],
  ['ftp', () => ({ protocol: 'ftp', port: host.ftpPort }), /^none$/],
] as const)('a site goes over %s, and only what changed the next time', async (_, more, key) => {
  const values = form(more())
  const tested = await testDestination(values, null, owner, null)
  expect(tested).toMatchObject({ fileCount: null })
  expect(tested.hostKey).toMatch(key)
  const id = await save(values)
  await deliver(id)
  const page = await readFile(path.join(host.publicPath, owner.siteId, 'visit.html'), 'utf8')
  expect(page).toContain('<h1>Visit</h1>')
  await deliver(id)
  const [second, first] = await listDeliveries(pool(), id, 2)
  expect(first!.fileCount).toBeGreaterThan(3)
  expect(second!.fileCount).toBe(0)
})

test('a password that was given for one protocol is sent over no other without being asked for again', async () => {
  const id = await save(form({ protocol: 'ftps', port: host.ftpPort }))
  const plain = form({ protocol: 'ftp', port: host.ftpPort, password: null })
  await expect(testDestination(plain, id, owner, 'none')).rejects.toMatchObject({ code: 'password-again' })
  await expect(saveDestination(plain, id, owner, 'none')).rejects.toMatchObject({ code: 'password-again' })
  await saveDestination({ ...plain, password: host.password }, id, owner, 'none')
  expect(await findDestination(pool(), id, owner.siteId, owner.accountId)).toMatchObject({ protocol: 'ftp' })
})

describe('one that is known already', () => {
  test('serves another site of the account, in a folder of its own, without its password', async () => {
    await save(form({ name: 'Ours' }))
    const second = { accountId: owner.accountId, siteId: (await accountWithSite('Home\n  A')).siteId }
    await pool().query('UPDATE sites SET account_id = $1 WHERE id = $2', [owner.accountId, second.siteId])
    const [known, ...more] = await listKnownDestinations(pool(), owner.accountId, second.siteId)
    expect(more).toEqual([])
    expect(known).toMatchObject({ name: 'Ours', siteName: 'Saltpan Chapel', host: '127.0.0.1' })
    expect(known).not.toHaveProperty('passwordSealed')
    const like = form({ folder: `public/${second.siteId}`, password: null, like: known!.id })
    const id = await saveDestination(like, null, second, known!.hostKey)
    await deliver(id, second)
    // Offered once, and no more where it is.
    expect(await listKnownDestinations(pool(), owner.accountId, second.siteId)).toEqual([])
    // Another host gets nothing of it.
    const elsewhere = { ...like, port: host.sftpPort + 1 }
    await expect(testDestination(elsewhere, null, second, known!.hostKey)).rejects.toMatchObject({ code: 'password-again' }) // prettier-ignore
  })

  test('of another account is not to be had', async () => {
    const id = await save(form())
    const stranger = await accountWithSite('Home')
    expect(await listKnownDestinations(pool(), stranger.accountId, stranger.siteId)).toEqual([])
    const like = form({ password: null, like: id })
    await expect(testDestination(like, null, stranger, 'none')).rejects.toMatchObject({ status: 404 })
    await expect(testDestination({ ...like, like: randomUUID() }, null, stranger, 'none')).rejects.toMatchObject({ status: 404 }) // prettier-ignore
  })
})

test('the practice host gives each account a space of its own, and each site an address', async () => {
  expect(offersPracticeHost([])).toBe(true)
  const id = await addPracticeHost(await siteOf(owner.siteId, owner.accountId), owner.accountId)
  await deliver(id)
  const [made] = await listDestinations(pool(), owner.siteId)
  expect(offersPracticeHost([made!])).toBe(false)
  expect(await (await fetch(new URL('visit.html', made!.publicAddress))).text()).toContain('<h1>Visit</h1>')
  const other = await accountWithSite('Home')
  await addPracticeHost(await siteOf(other.siteId, other.accountId), other.accountId)
  const [theirs] = await listDestinations(pool(), other.siteId)
  expect(theirs!.account).not.toBe(made!.account)
  // Nobody sees what is another's: their folder is none of mine.
  const peek = form({ account: theirs!.account, folder: made!.folder })
  await expect(save(peek, null, other)).rejects.toMatchObject({ code: 'wrong-host-password' })
})
