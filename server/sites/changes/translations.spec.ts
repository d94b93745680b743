import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import type { Change } from '#core/change'
import { translationsOf } from '#core/plan'
import { getTexts } from '../../contents/blobs'
import { PostgresContents } from '../../contents/postgres-store'
import { pool } from '../../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../../testing/support'
import { findingsOf } from '../findings'
import { prepareChange, readChange } from './change-request'
import { changeSite } from './changes'
import { stepHistory } from './step-history'

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
const page = async (label: string) => (await site()).pages.find((one) => one.label === label)!
const textOf = async (hash: string) => (await getTexts(pool(), [hash])).get(hash)
const step = (way: 'undo' | 'redo') => stepHistory(ids.siteId, ids.accountId, 0, way)
const make = (change: Change) => changeSite(ids.siteId, ids.accountId, 0, () => change)
/** Copies in German of the whole site. */
async function translate(): Promise<Readonly<Record<string, string>>> {
  const { pages, homeId } = await site()
  const newIds = Object.fromEntries(pages.map(({ id }) => [id, randomUUID()]))
  await make({ kind: 'translatePages', pageId: homeId, language: 'de', newIds })
  return newIds
}
const told = async (rule: string) =>
  (await findingsOf(await site(), AbortSignal.timeout(20_000))).findings.filter((one) => one.rule === rule)

test('that puts a site into another language is kept with what is the same, and undo takes all of it back', async () => {
  await writePage(ids.siteId, ids.accountId, 'Visit', '<a href="/contact.html">t</a>')
  const before = await site()
  const visit = await page('Visit')
  const newIds = await translate()
  const after = await site()
  const { of } = translationsOf(after)
  expect(
    before.pages.map((page) => of(after.pages.find(({ id }) => id === page.id)!).map(({ id }) => id)),
  ).toEqual(before.pages.map(({ id }) => [id, newIds[id]]))
  const copy = after.pages.find(({ id }) => id === newIds[visit.id])!
  expect(await textOf(copy.content)).toBe('<a href="/deutsch/contact.html">t</a>')
  expect(copy.translatedFrom).toEqual({ ofId: visit.id, content: visit.content, slots: {} })
  // Its answer lost on the way, it is asked for again.
  await make({ kind: 'translatePages', pageId: before.homeId, language: 'de', newIds })
  expect((await site()).pages).toHaveLength(2 * before.pages.length)
  await step('undo')
  expect({ ...(await site()), nextSeq: before.nextSeq }).toEqual(before)
})

test('a copy takes what its original says now without being asked about, and leads where copies lead', async () => {
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>Two crossings a day.</p>')
  const newIds = await translate()
  const original = await page('Tides')
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>See <a href="/contact.html">us</a>, <a href="../visit.html">the pier</a> and <a href="#x">below</a>.</p>') // prettier-ignore
  const [finding] = await told('untranslated')
  const [way] = finding!.mends
  if (!way || !('change' in way)) throw new Error('No way to mend it')
  const request = readChange(way.change)
  const before = await site()
  await changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, request), false)
  const copy = (await site()).pages.find(({ id }) => id === newIds[original.id])!
  expect(await textOf(copy.content)).toBe('<p>See <a href="/deutsch/contact.html">us</a>, <a href="../visit.html">the pier</a> and <a href="#x">below</a>.</p>') // prettier-ignore
  expect(copy.translatedFrom!.content).toBe((await page('Tides')).content)
  expect((await told('untranslated'))[0]!.mends).toEqual([])
  // Written meanwhile, it is not written over.
  await expect(
    changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, request), false),
  ).rejects.toMatchObject({ code: 'changed-elsewhere' })
  await step('undo')
  expect(await site()).toEqual(before)
})

test('what an original said stays as long as its translation is held against it, and is told until they say the same', async () => {
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>Two crossings a day.</p>')
  const newIds = await translate()
  const original = await page('Tides')
  const copyId = newIds[original.id]!
  const copy = async () => (await site()).pages.find(({ id }) => id === copyId)!
  await make({ kind: 'setPageText', pageId: copyId, field: 'label', value: 'Gezeiten', was: 'Tides' })
  await writePage(ids.siteId, ids.accountId, 'Gezeiten', '<p>Zwei Fahrten am Tag.</p>')
  expect(await told('changed-original')).toEqual([])
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>Three crossings a day.</p>')
  const [finding] = await told('changed-original')
  expect(finding!.place).toEqual({ kind: 'page', id: copyId, slot: 'content' })

  // What history has let go of is there all the same.
  await pool().query(`UPDATE blobs SET put_at = now() - interval '9 days'`)
  await pool().query('DELETE FROM history_contents WHERE site_id = $1', [ids.siteId])
  await new PostgresContents(pool()).collect(1_000, 24)
  expect(await textOf((await copy()).translatedFrom!.content)).toBe('<p>Two crossings a day.</p>')

  const before = await site()
  const [way] = finding!.mends
  if (!way || !('change' in way)) throw new Error('No way to mend it')
  const request = readChange(way.change)
  await changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, request))
  expect(await told('changed-original')).toEqual([])
  expect((await copy()).translatedFrom!.content).toBe((await page('Tides')).content)
  await step('undo')
  expect(await site()).toEqual(before)
  expect(await told('changed-original')).toHaveLength(1)
  // A page that is removed comes back with what it was held against.
  await make({ kind: 'removePages', pageIds: [copyId] })
  expect(await told('changed-original')).toEqual([])
  await step('undo')
  expect(await site()).toEqual(before)
})
