import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import { type Change, isSaid } from '#core/change'
import type { Wanted } from '#core/find'
import { namesOf } from '#core/naming'
import { checkSite } from '#core/site'
import { pageCalled } from '#core/testing'
import { getTexts } from '../../contents/blobs'
import { pool } from '../../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../../testing/support'
import { changeSite } from '../changes/changes'
import { stepHistory } from '../changes/step-history'
import { takeFile } from '../files'
import { findInSite } from './find'
import { replaceInSite } from './replace'

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
const texts = async () => (await owners()).filter((owner) => !isSaid(owner))
const send = async (name: string, text: string | Buffer) =>
  takeFile(await site(), ids.accountId, 0, { id: randomUUID(), name, replaces: null, keepsPlace: false }, Readable.from([Buffer.from(text)])) // prettier-ignore
const textOf = async (hash: string) => (await getTexts(pool(), [hash])).get(hash)
const replace = async (by: string, more: object = {}) =>
  replaceInSite(
    await site(),
    ids.accountId,
    { wanted: asked, by, chosen: await texts(), seen: 0, shown: false, requestId: randomUUID(), ...more },
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
  expect(found[1]!.line).toEqual({ line: 1, before: '<p>The ', found: 'tides', after: ' <a href="/tides.html">of tides</a></p>' })
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
    '<p>The floods <a href="/tides.html">of FLOODS</a></p>',
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
  const both = await replaceInSite(seen, ids.accountId, { wanted: asked, by: 'tides tides', seen: 0, shown: false, ...again }, never) // prettier-ignore
  expect(both.revision).toBe(first.revision)
  expect(await textOf(pageCalled(await site(), 'Visit').content)).toBe('<p>tides tides</p>')
  const same = await replace('tides')
  expect(same.revision).toBe(first.revision)
})

test('labels, titles, descriptions and the name of the site are changed with the texts; references follow once that was shown', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>The <a href="/tides.html">tides</a></p>')
  const set = async (change: Change) => changeSite(ids.siteId, ids.accountId, 0, () => change)
  const { pages, name, titlePattern } = await site()
  const home = pages[0]!.id
  await set({ kind: 'setPageText', pageId: home, field: 'title', value: 'TIDES & ferries', was: null })
  await set({ kind: 'setPageText', pageId: home, field: 'description', value: 'Of tides', was: null })
  await set({ kind: 'setSetting', field: 'name', value: 'The Tides Page', was: name })
  await set({ kind: 'setSetting', field: 'titlePattern', value: '{page} of tides', was: titlePattern })
  const chosen = await owners()
  expect(chosen.map((owner) => (isSaid(owner) ? owner.field : owner.kind))).toEqual([
    'name',
    'titlePattern',
    'title',
    'description',
    'label',
    'page',
  ])
  const was = await site()
  await expect(replace('ebb &amp; <b>flood</b>', { chosen })).rejects.toMatchObject({
    code: 'ask-first',
    detail: { ripple: { movedCount: 1, linkCount: 1 } },
  })
  expect(await site()).toEqual(was)
  await replace('ebb &amp; <b>flood</b>', { chosen, shown: true })
  const now = await site()
  expect(checkSite(now)).toEqual([])
  expect([now.name, now.titlePattern]).toEqual(['The Ebb & flood Page', '{page} of ebb & flood'])
  const [first] = now.pages
  expect([first!.title, first!.description]).toEqual(['EBB & FLOOD & ferries', 'Of ebb & flood'])
  expect(namesOf(now).pages.get(pageCalled(now, 'Ebb & flood').id)!.path).toBe('ebb-and-flood.html')
  expect(await textOf(pageCalled(now, 'Visit').content)).toBe(
    '<p>The <a href="/ebb-and-flood.html">ebb &amp; <b>flood</b></a></p>',
  )
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  const back = await site()
  expect([back.pages, back.name, back.titlePattern]).toEqual([was.pages, was.name, was.titlePattern])
})

test('a label, and a name of a site, are not left without words, and none becomes longer than it may be', async () => {
  const seen = await site()
  const chosen = await owners()
  expect(chosen).toHaveLength(1)
  await expect(replace('', { chosen })).rejects.toMatchObject({ code: 'invalid' })
  await expect(replace('x'.repeat(600), { chosen })).rejects.toMatchObject({ code: 'invalid' })
  const ofSite = [{ kind: 'site', field: 'name', was: seen.name }]
  const all = { ...asked, words: seen.name }
  await expect(replace('', { chosen: ofSite, wanted: all })).rejects.toMatchObject({ code: 'invalid' })
  await expect(replace('x'.repeat(301), { chosen: ofSite, wanted: all })).rejects.toMatchObject({ code: 'invalid' })
  await expect(replace('x', { chosen: [{ ...ofSite[0], was: 'Another' }], wanted: all })).rejects.toMatchObject({ code: 'changed-elsewhere' })
  expect(await site()).toEqual(seen)
}) // prettier-ignore
