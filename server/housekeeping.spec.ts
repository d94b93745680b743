import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import { getTexts, putBlob } from './contents/blobs'
import { housekeeping } from './housekeeping'
import { pool } from './platform/pool'
import { changeSite } from './sites/changes/changes'
import { stepHistory } from './sites/changes/step-history'
import { deleteSite } from './sites/rows/site-rows'
import { accountWithSite, freshDatabase, siteOf, writePage } from './testing/support'

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
const rename = async (label: string, value: string) => {
  const { id } = await page(label)
  return changeSite(ids.siteId, ids.accountId, 0, () => ({
    kind: 'setPageText',
    pageId: id,
    field: 'label',
    value,
    was: label,
  }))
}
const contentOf = async (label: string) => {
  const { content } = await page(label)
  return (await getTexts(pool(), [content])).get(content)
}

const blobCount = async () => Number((await pool().query('SELECT count(*) AS n FROM blobs')).rows[0]!.n)
const age = (table: string, column: string, days: number) =>
  pool().query(`UPDATE ${table} SET ${column} = ${column} - make_interval(days => $1)`, [days])

test('collects contents that nothing names any more, and none that undo or a site still needs', async () => {
  await writePage(ids.siteId, ids.accountId, 'Contact', '<p>first')
  await writePage(ids.siteId, ids.accountId, 'Contact', '<p>second')
  const other = await accountWithSite('Home')
  await writePage(other.siteId, other.accountId, 'Home', '<p>of a site that goes')
  await age('blobs', 'put_at', 2)
  const before = await blobCount()
  await housekeeping()
  expect(await blobCount()).toBe(before)
  expect(await contentOf('Contact')).toBe('<p>second')
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect(await contentOf('Contact')).toBe('<p>first')
  await deleteSite(pool(), other.siteId, other.accountId)
  await housekeeping()
  expect(await blobCount()).toBe(before - 1)
})

test('leaves what was put a moment ago: it may be on its way to a site', async () => {
  const before = await blobCount()
  await putBlob(pool(), `just put ${randomUUID()}`)
  await housekeeping()
  expect(await blobCount()).toBe(before + 1)
  await age('blobs', 'put_at', 2)
  // Put again, it is young again.
  await putBlob(pool(), '<p>second')
  await housekeeping()
  expect(await blobCount()).toBe(before)
})

test('keeps every step of the last days and of undo, and of older days one', async () => {
  for (let step = 0; step < 505; step++)
    await pool().query(
      `INSERT INTO history (site_id, revision, kind, title, diff, state, made_at) VALUES ($1, $2, 'change', 'x', $3, 'done', now() - make_interval(days => 40))`,
      [ids.siteId, step + 1, JSON.stringify({ settings: null, pages: {}, files: {}, templates: {} })],
    )
  await pool().query('UPDATE sites SET revision = 505 WHERE id = $1', [ids.siteId])
  await housekeeping()
  const rows = (
    await pool().query('SELECT revision, title, state FROM history WHERE site_id = $1 ORDER BY revision', [
      ids.siteId,
    ])
  ).rows
  // Five are older than what undo goes through: they became one.
  expect(rows).toHaveLength(501)
  expect(rows[0]).toMatchObject({
    revision: 5,
    title: expect.stringContaining('the 5 changes of'),
    state: 'done',
  })
  await rename('Visit', 'Come')
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect((await page('Visit')).label).toBe('Visit')
})
