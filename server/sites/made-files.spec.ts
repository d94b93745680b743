import { randomBytes, randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import { hashOf } from '../contents/blobs'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { takeFile } from './files'
import { listMade, streamMade } from './made-files'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit')
})
const site = () => siteOf(ids.siteId, ids.accountId)
const never = new AbortController().signal

test('files come one after the other in the order that was asked for, large ones among them, each as it was told', async () => {
  // More than is held whole.
  const large = randomBytes(9_000_000)
  await takeFile(await site(), ids.accountId, 0, { id: randomUUID(), name: 'tides.bin', replaces: null, keepsPlace: false }, Readable.from([large])) // prettier-ignore
  const asked = (await listMade(await site(), never)).toReversed()
  expect(asked.map(({ path }) => path).sort()).toEqual(['files/tides.bin', 'index.html', 'styles/site.css', 'visit.html']) // prettier-ignore
  const bytes = Buffer.from(await new Response(await streamMade(await site(), asked, never)).arrayBuffer())
  let at = 0
  for (const { hash, sizeBytes } of asked) {
    expect(hashOf(bytes.subarray(at, at + sizeBytes))).toBe(hash)
    at += sizeBytes
  }
  expect(at).toBe(bytes.length)
})

test('what is no longer as it was told is not sent in its place', async () => {
  const told = await listMade(await site(), never)
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>Changed</p>')
  const now = await site()
  const visit = told.filter(({ path }) => path === 'visit.html')
  await expect(streamMade(now, visit, never)).rejects.toMatchObject({ code: 'changed-elsewhere' })
  const other = [{ path: 'nowhere.html', hash: visit[0]!.hash }]
  await expect(streamMade(now, other, never)).rejects.toMatchObject({ code: 'changed-elsewhere' })
})
