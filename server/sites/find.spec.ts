import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import type { Wanted } from '#core/find'
import { checkSite } from '#core/site'
import { pageCalled } from '#core/testing'
import { getTexts } from '../contents/blobs'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { stepHistory } from './changes/step-history'
import { takeFile } from './files'
import { findInSite, replaceInSite } from './find'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Tides\n  Visit')
})
const site = () => siteOf(ids.siteId, ids.accountId)
const never = new AbortController().signal
const asked: Wanted = { words: 'tides', isExact: false, isWhole: false, inSource: false }
const owners = async (wanted = asked) => {
  const { found } = await findInSite(await site(), wanted, never)
  return found.map(({ owner }) => owner)
}
const texts = async () => (await owners()).flatMap((owner) => ('was' in owner ? [owner] : []))
const send = async (name: string, text: string | Buffer) =>
  takeFile(await site(), ids.accountId, 0, { id: randomUUID(), name, replaces: null, keepsPlace: false }, Readable.from([Buffer.from(text)])) // prettier-ignore
const textOf = async (hash: string) => (await getTexts(pool(), [hash])).get(hash)
const replace = async (by: string, more: object = {}) =>
  replaceInSite(
    await site(),
    ids.accountId,
    { wanted: asked, by, chosen: await texts(), seen: 0, requestId: randomUUID(), ...more },
    never,
  )

test('words are found in the plan, in pages, templates and files of words; in sources where that is asked', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>The tides <a href="/tides.html">of tides</a></p>')
  await send('times.txt', 'tides\n')
  await send('more.css', '.tides { top: 0 }\n')
  // In another encoding than a text of the site: it would be written anew.
  await send('old.txt', Buffer.from('tides in caf\xe9', 'latin1'))
  const { found, placeCount, ownerCount } = await findInSite(await site(), asked, never)
  expect(found.map(({ owner, count }) => [owner.kind, 'field' in owner ? owner.field : 'text', count])).toEqual([
    ['page', 'label', 1],
    ['page', 'text', 2],
    ['file', 'text', 1],
  ])
  expect([placeCount, ownerCount]).toEqual([4, 3])
  expect(found[1]!.lines[0]).toEqual({ line: 1, before: '<p>The ', found: 'tides', after: ' <a href="/tides.html">of tides</a></p>' })
  expect(await owners({ ...asked, inSource: true })).toHaveLength(4)
  await expect(findInSite(await site(), asked, AbortSignal.abort())).rejects.toThrow()
}) // prettier-ignore

test('others are put in their place in all that were chosen, as one change, which is taken back as one', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>The tides <a href="/tides.html">of TIDES</a></p>')
  await writePage(ids.siteId, ids.accountId, 'Home', '<p>No\ntides</p>')
  await send('times.txt', 'tides\n')
  const was = await site()
  await replace('floods')
  const now = await site()
  expect(checkSite(now)).toEqual([])
  expect(await textOf(pageCalled(now, 'Visit').content)).toBe(
    '<p>The floods <a href="/tides.html">of floods</a></p>',
  )
  expect(await textOf(pageCalled(now, 'Home').content)).toBe('<p>No\nfloods</p>')
  const file = now.files.find(({ label }) => label === 'times.txt')!
  expect([await textOf(file.hash), file.sizeBytes]).toEqual(['floods\n', 7])
  expect(pageCalled(now, 'Tides').label).toBe('Tides')
  expect(await texts()).toEqual([])
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  const back = await site()
  expect(back.pages).toEqual(was.pages)
  expect(back.files).toEqual(was.files)
})

test('what was changed since it was found is left, and so is all else', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>tides</p>')
  const chosen = await texts()
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>tides, and more</p>')
  const now = await site()
  await expect(replace('floods', { chosen })).rejects.toMatchObject({ code: 'changed-elsewhere' })
  expect(await site()).toEqual(now)
})

test('what would be longer than a text may be is refused, and nothing is changed', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', `<p>${'tides '.repeat(5_000)}</p>`)
  const now = await site()
  await expect(replace('x'.repeat(2_000))).rejects.toMatchObject({ code: 'too-heavy' })
  expect(await site()).toEqual(now)
})

test('asked for again because its answer was lost, it is made once; what changes nothing is no change', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>tides</p>')
  const again = { chosen: await texts(), requestId: randomUUID() }
  const seen = await site()
  const first = await replace('tides tides', again)
  const both = await replaceInSite(seen, ids.accountId, { wanted: asked, by: 'tides tides', seen: 0, ...again }, never) // prettier-ignore
  expect(both.revision).toBe(first.revision)
  expect(await textOf(pageCalled(await site(), 'Visit').content)).toBe('<p>tides tides</p>')
  const same = await replace('tides')
  expect(same.revision).toBe(first.revision)
})
