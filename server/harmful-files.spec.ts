import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { takeArchive } from '#server/archives'
import { beginBringing, lookAtBringing, takeBroughtFile, takeBroughtZip } from '#server/bringing'
import { hashOf, lookedThrough } from '#server/contents'
import { takeKit } from '#server/kits'
import { pool } from '#server/platform'
import { endBringers } from './bringing/in-thread'
import { takeFile, takePortions, takeWhole } from './sites/files'
import { harmful, type StandInScanner, startScanner } from './testing/scanner'
import { accountWithSite, freshDatabase, siteOf } from './testing/support'
import { zipped } from './testing/zipped'

let scanner: StandInScanner
let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  scanner = await startScanner()
  process.env.RUBRICANT_SCANNER = scanner.at
  database = await freshDatabase()
  ids = await accountWithSite('Home')
})
afterAll(async () => {
  await endBringers()
  await database.close()
  await scanner.close()
})
beforeEach(() => {
  scanner.ways = 'well'
  scanner.most = 50_000_000
})

const bad = (sizeBytes = 0) => Buffer.concat([randomBytes(sizeBytes), Buffer.from(`%PDF-1.4 ${harmful}`)])
const sent = (name: string) => ({ id: randomUUID(), name, replaces: null, keepsPlace: true })
async function* inPieces(bytes: Buffer, size = 65_536) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
}
const codeOf = (taken: Promise<unknown>) =>
  taken.then(
    () => 'taken',
    (error: { code?: string }) => error.code,
  )
const send = async (name: string, bytes: Buffer) =>
  takeFile(await siteOf(ids.siteId, ids.accountId), ids.accountId, 0, sent(name), inPieces(bytes))
const labels = async () => (await siteOf(ids.siteId, ids.accountId)).files.map(({ label }) => label)
const isStored = async (bytes: Buffer) => {
  const { rows } = await pool().query('SELECT 1 FROM blobs WHERE hash = $1', [hashOf(bytes)])
  return rows.length > 0
}
const portions = async () =>
  Number((await pool().query<{ n: string }>('SELECT count(*) AS n FROM blob_portions')).rows[0]!.n)
describe('a file that is sent', () => {
  test('is seen whole, and kept to the byte where it is harmless', async () => {
    const bytes = randomBytes(3_000_000)
    await send('tides.bin', bytes)
    expect(scanner.seen.at(-1)).toBe(bytes.length)
    expect(await isStored(bytes)).toBe(true)
    await send('nothing.txt', Buffer.alloc(0))
    expect(await labels()).toEqual(expect.arrayContaining(['tides.bin', 'nothing.txt']))
  })

  test.each([0, 3_000_000])('that is harmful leaves nothing behind, after %i bytes of others', async (size) => {
    const bytes = bad(size)
    const before = await portions()
    const taken = send('chart.pdf', bytes)
    await expect(taken).rejects.toMatchObject({ code: 'harmful-file', status: 422 })
    await expect(taken).rejects.toThrow('“chart.pdf” is not taken: what looks files through on this server found “Wrecker.Lantern-1” in it.')
    expect(await labels()).not.toContain('chart.pdf')
    expect(await isStored(bytes)).toBe(false)
    expect(await portions()).toBe(before)
  }) // prettier-ignore

  test('in several requests is looked through once it is whole, and what came of it is let go', async () => {
    const bytes = bad(2_500_000)
    const file = sent('chart.pdf')
    const before = await portions()
    const site = await siteOf(ids.siteId, ids.accountId)
    expect(await takePortions(site, file.id, 0, inPieces(bytes))).toBe(bytes.length)
    expect(await codeOf(takeWhole(site, ids.accountId, 0, file, bytes.length))).toBe('harmful-file')
    expect(await portions()).toBe(before)
    expect(await codeOf(takeWhole(site, ids.accountId, 0, file, bytes.length))).toBe('upload-gone')
  })

  test.each(['hangs up', 'says nothing of use'] as const)('is not taken where what looks it through %s', async (ways) => {
    scanner.ways = ways
    const bytes = randomBytes(3_000_000)
    expect(await codeOf(send('unseen.bin', bytes))).toBe('not-looked-through')
    expect(await isStored(bytes)).toBe(false)
  }) // prettier-ignore

  test('is not taken where it is larger than what can be looked through', async () => {
    scanner.most = 100_000
    expect(await codeOf(send('large.bin', randomBytes(3_000_000)))).toBe('too-large-to-look-through')
  })
})

test('of a folder or a ZIP what is harmful stays out and is told, and the rest comes in', async () => {
  const home = '<!DOCTYPE html><title>Home</title><h1>Home</h1>'
  const whys = async (id: string) =>
    (await lookAtBringing(ids.accountId, id, { names: 'kept', lifts: true, generates: true, planBy: 'found', same: 'leave', frame: 'own' }))
      .remarks.filter(({ why }) => why.includes('Wrecker')).map(({ path }) => path).sort() // prettier-ignore
  const folder = await beginBringing(ids.accountId, '')
  await takeBroughtFile(ids.accountId, folder, 'index.html', [Buffer.from(home)])
  expect(await takeBroughtFile(ids.accountId, folder, 'files/chart.pdf', [bad()])).toBe(false)
  expect(await whys(folder)).toEqual(['files/chart.pdf'])
  const zip = await beginBringing(ids.accountId, '')
  await takeBroughtZip(
    ids.accountId,
    zip,
    await zipped({ 'index.html': home, 'small.pdf': bad(), 'large.pdf': bad(2_000_000), 'good.bin': randomBytes(700_000) }),
  ) // prettier-ignore
  expect(await whys(zip)).toEqual(['large.pdf', 'small.pdf'])
  const { rows } = await pool().query('SELECT path FROM brought_files WHERE bringing_id = $1 ORDER BY path', [
    zip,
  ])
  expect(rows.map(({ path }) => path)).toEqual(['good.bin', 'index.html'])
})

test('a site that was taken away, and a kit, come back only as a whole', async () => {
  const archive = await zipped({ 'site.json': '{}', 'files/chart.pdf': bad() })
  expect(await codeOf(takeArchive(ids.accountId, archive, randomUUID()))).toBe('harmful-file')
  expect(await codeOf(takeKit(ids.accountId, archive))).toBe('harmful-file')
})

test('nothing is asked where nobody is named who looks files through', async () => {
  const before = scanner.seen.length
  const pieces: Uint8Array[] = []
  for await (const piece of lookedThrough([bad()], 'chart.pdf', null)) pieces.push(piece)
  expect(Buffer.concat(pieces).includes(harmful)).toBe(true)
  expect(scanner.seen).toHaveLength(before)
})

test('nothing is taken while it is away, and it is once it is there', async () => {
  const port = scanner.port
  await scanner.close()
  expect(await codeOf(send('later.bin', randomBytes(1_000)))).toBe('not-looked-through')
  const again = await startScanner(port)
  await send('later.bin', randomBytes(1_000))
  expect(again.seen).toEqual([1_000])
  await again.close()
})
