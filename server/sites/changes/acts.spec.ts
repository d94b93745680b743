import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import { checkSite, emptyHash } from '#core/site'
import { pool } from '#server/platform'
import { signUp } from '../../accounts/accounts'
import { accountWithSite, freshDatabase, siteOf } from '../../testing/support'
import { invite, takeInvitation } from '../people/people'
import { thinDay } from '../rows/history-rows'
import { changeSite } from './changes'
import { stepHistory } from './step-history'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
let ada: string
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit')
  ada = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!.id
  const asked = { gives: 'partner', label: '', days: 1 } as const
  await takeInvitation(await invite(ids.siteId, ids.accountId, asked), ada)
})

const site = () => siteOf(ids.siteId, ids.accountId)
const labels = async () => (await site()).pages.map(({ label }) => label).sort().join(' ') // prettier-ignore
const add = (label: string, actId: string | null, who = ids.accountId) => {
  const pages = [{ id: randomUUID(), label }]
  const change = { kind: 'addPages', parentId: null, after: null, pages, content: emptyHash } as const
  return changeSite(ids.siteId, who, 0, () => change, true, undefined, actId)
}
const rename = async (was: string, value: string, actId: string | null, who = ids.accountId) => {
  const { id } = (await site()).pages.find((page) => page.label === was)!
  const change = { kind: 'setPageText', pageId: id, field: 'label', value, was } as const
  return changeSite(ids.siteId, who, 0, () => change, true, undefined, actId)
}
const step = async (direction: 'undo' | 'redo' = 'undo') => {
  const saved = await stepHistory(ids.siteId, ids.accountId, 0, direction)
  expect(checkSite(await site())).toEqual([])
  return saved
}

test('what is done at once is taken back and made again as one step, and what others did meanwhile stays', async () => {
  const act = randomUUID()
  await rename('Visit', 'Come', null)
  const { undo } = await add('Terns', act)
  await add('Gulls', null, ada)
  await add('Seals', act)
  const last = await add('Moths', act)
  expect([undo, last.undo]).toEqual(['adding “Terns”', 'adding “Terns” and 2 more'])
  const undone = await step()
  expect(await labels()).toBe('Come Gulls Home')
  expect([undone.undo, undone.redo]).toEqual(['a new label for “Visit”', 'adding “Terns” and 2 more'])
  const redone = await step('redo')
  expect(await labels()).toBe('Come Gulls Home Moths Seals Terns')
  expect([redone.undo, redone.redo]).toEqual(['adding “Terns” and 2 more', null])
  await step()
  await step()
  expect(await labels()).toBe('Gulls Home Visit')
})

test('what its author does between parts it, and so does what is taken back meanwhile', async () => {
  const act = randomUUID()
  await add('Terns', act)
  await rename('Terns', 'Arctic terns', null)
  await add('Seals', act)
  expect((await add('Moths', act)).undo).toBe('adding “Seals” and 1 more')
  await step()
  expect(await labels()).toBe('Arctic terns Home Visit')
  // What comes of it now is a step of its own, and what was taken back is not made again.
  expect(await add('Crabs', act)).toMatchObject({ undo: 'adding “Crabs”', redo: null })
  await step()
  await step()
  await step()
  expect(await labels()).toBe('Home Visit')
  await step('redo')
  expect(await labels()).toBe('Home Terns Visit')
})

test('of what somebody else changed between two changes of it nothing is lost', async () => {
  const act = randomUUID()
  await rename('Visit', 'Come', act)
  await rename('Come', 'Come over', null, ada)
  await rename('Come over', 'Come here', act)
  await expect(step()).rejects.toMatchObject({ code: 'cannot-step' })
  expect(await labels()).toBe('Come here Home')
})

test('of a day that became one step nothing goes on', async () => {
  const act = randomUUID()
  for (const label of ['Terns', 'Seals', 'Moths']) await add(label, act)
  // Long ago, and further back than what is kept step by step.
  await pool().query(`UPDATE history SET made_at = '2020-01-02' WHERE site_id = $1`, [ids.siteId])
  await pool().query('UPDATE sites SET revision = revision + 600 WHERE id = $1', [ids.siteId])
  await thinDay(pool(), ids.siteId, '2020-01-02')
  expect((await add('Crabs', act)).undo).toBe('adding “Crabs”')
  await step()
  await step()
  expect(await labels()).toBe('Home Visit')
})
