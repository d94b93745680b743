import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { filesOfSite } from './build'
import { changeSite } from './changes/changes'
import { changedSinceZip, takeZip } from './taken-zips'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit\n    Tides\n  Contact')
})

const site = () => siteOf(ids.siteId, ids.accountId)
const since = async (accountId = ids.accountId) => {
  const found = await changedSinceZip(
    pool(),
    ids.siteId,
    accountId,
    (await filesOfSite(pool(), await site())).manifest,
  )
  return found && { changed: found.changed.map(({ path }) => path).sort(), gone: found.gone }
}
const signal = () => new AbortController().signal
const take = async (isWhole: boolean, accountId = ids.accountId) =>
  takeZip(await site(), accountId, isWhole, signal())
/** Paths in the central directory (APPNOTE 4.3.12). */
async function pathsIn(stream: ReadableStream<Uint8Array>): Promise<string[]> {
  const zip = Buffer.from(await new Response(stream).arrayBuffer())
  const paths: string[] = []
  for (let at = zip.indexOf('PK\u0001\u0002'); at >= 0; at = zip.indexOf('PK\u0001\u0002', at + 46))
    paths.push(zip.toString('utf8', at + 46, at + 46 + zip.readUInt16LE(at + 28)))
  return paths.sort()
}
/** What is noted behind an answer that has gone out. */
async function noted(is: (now: Awaited<ReturnType<typeof since>>) => boolean) {
  for (let tries = 0; tries < 100 && !is(await since()); tries++) await pause(20)
  return since()
}

const all = ['contact.html', 'index.html', 'styles/site.css', 'visit/index.html', 'visit/tides.html']

test('what has changed since a ZIP was taken is in the next one, and what is gone is told', async () => {
  expect(await since()).toBeNull()
  // Of what nobody has, all has changed.
  expect(await pathsIn(await take(false))).toEqual(all)
  expect(await noted((now) => now !== null)).toEqual({ changed: [], gone: [] })
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>High at noon</p>')
  expect(await since()).toEqual({ changed: ['visit/tides.html'], gone: [] })
  const { pages } = await site()
  const { id: pageId, ownName: was } = pages.find(({ label }) => label === 'Contact')!
  await changeSite(ids.siteId, ids.accountId, 0, () => ({ kind: 'setPageText', pageId, field: 'ownName', value: 'write-to-us', was }))
  const { changed, gone } = (await since())!
  expect(gone).toEqual(['contact.html'])
  // The menu of every page names it.
  expect(changed).toEqual(['index.html', 'visit/index.html', 'visit/tides.html', 'write-to-us.html'])
  expect(await pathsIn(await take(false))).toEqual(changed)
  expect(await noted((now) => now?.changed.length === 0)).toEqual({ changed: [], gone: [] })
  expect(await pathsIn(await take(true))).toHaveLength(all.length)
}) // prettier-ignore

test('one that was broken off does not count, nor does another account’s', async () => {
  const other = await accountWithSite('Home')
  await pathsIn(await take(true, other.accountId))
  const reader = (await take(true)).getReader()
  await reader.read()
  await reader.cancel()
  await pause(200)
  expect(await since()).toBeNull()
  expect(await since(other.accountId)).toEqual({ changed: [], gone: [] })
})
