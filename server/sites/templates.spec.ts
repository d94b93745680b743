import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import type { Change } from '#core/change'
import { readHtml } from '#core/markup'
import { emptyHash, slotOf } from '#core/site'
import { getTexts, putBlob } from '../contents/blobs'
import { PostgresContents } from '../contents/postgres-store'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase, siteOf } from '../testing/support'
import { buildForPage, filesOfSite } from './build'
import { changeSite } from './changes/changes'
import { stepHistory } from './changes/step-history'
import { prepareChange, readChange } from './changes/change-request'
import { findingsOf } from './findings'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit\n    Tides\n    Ferry\n  Contact')
})

const site = () => siteOf(ids.siteId, ids.accountId)
const page = async (label: string) => (await site()).pages.find((one) => one.label === label)!
const make = (change: Change, shown = true) => changeSite(ids.siteId, ids.accountId, 0, () => change, shown)
const addTemplate = async (name: string, source: string, basedOn: string | null = null) => {
  const templateId = randomUUID()
  await make({ kind: 'addTemplate', templateId, name, source: await putBlob(pool(), source), basedOn })
  return templateId
}
const fill = async (label: string, slot: string, text: string) => {
  const one = await page(label)
  const content = await putBlob(pool(), text)
  await make({ kind: 'setContent', pageId: one.id, slot, content, was: slotOf(one, slot) })
}
const choose = async (label: string, of: 'page' | 'below', templateId: string | null, shown = true) =>
  make({ kind: 'chooseTemplate', pageIds: [(await page(label)).id], of, templateId }, shown)
const htmlOf = async (label: string) => {
  const { id } = await page(label)
  return (await buildForPage(pool(), await site(), id)).textOf(id)
}

const two = '<main>\n  <slot></slot>\n</main>\n<aside>\n  <slot name="aside"></slot>\n</aside>'

test('templates, what pages use of them, and what slots hold are kept, undone and made again', async () => {
  const template = await addTemplate('Two columns', two)
  await choose('Visit', 'below', template)
  await fill('Tides', 'aside', '<p>Ask the pilot.</p>')
  expect(await htmlOf('Tides')).toBe('<main>\n</main>\n<aside>\n  <p>Ask the pilot.</p>\n</aside>\n')
  const before = await site()
  for (let step = 0; step < 3; step++) await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect((await site()).templates).toHaveLength(1)
  expect((await page('Tides')).slots).toEqual({})
  for (let step = 0; step < 3; step++) await stepHistory(ids.siteId, ids.accountId, 0, 'redo')
  expect(await site()).toEqual(before)
  // A page that is removed comes back with all it held.
  const { id } = await page('Tides')
  await make({ kind: 'removePages', pageIds: [id] })
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect((await page('Tides')).slots).toEqual(before.pages.find((one) => one.id === id)!.slots)
})

test('what a slot holds is not collected while a page or its history names it', async () => {
  await fill('Tides', 'aside', `<p>${randomUUID()}</p>`)
  const hash = (await page('Tides')).slots.aside!
  await pool().query(`UPDATE blobs SET put_at = now() - interval '9 days'`)
  await pool().query('DELETE FROM history_contents')
  await new PostgresContents(pool()).collect(1_000, 24)
  expect((await getTexts(pool(), [hash])).has(hash)).toBe(true)
})

test('a template that hides what is written is asked about first, typing one is not; what is hidden is a finding', async () => {
  const template = await addTemplate('Two columns', two)
  const one = await addTemplate('One column', '<slot></slot>')
  await choose('Tides', 'page', template)
  await fill('Tides', 'aside', '<p>Ask the pilot.</p>')
  const { id } = await page('Tides')
  await expect(choose('Tides', 'page', one, false)).rejects.toMatchObject({
    code: 'ask-first',
    detail: { ripple: { hidden: [{ pageId: id, slot: 'aside' }] } },
  })
  const was = (await site()).templates.find((each) => each.id === template)!.source
  const source = await putBlob(pool(), '<slot></slot>')
  const typed = await make({ kind: 'setTemplate', templateId: template, source, was }, false)
  expect(typed.ripple?.hidden).toEqual([{ pageId: id, slot: 'aside' }])
  const { findings } = await findingsOf(await site(), AbortSignal.timeout(5_000))
  const hidden = findings.find((finding) => finding.rule === 'hidden-slot')!
  expect(hidden).toMatchObject({ place: { kind: 'page', id, slot: 'aside' } })
  const [mend] = hidden.mends
  if (!mend || !('change' in mend)) throw new Error('No way to mend it')
  const request = readChange(mend.change)
  await changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, request))
  expect(await htmlOf('Tides')).toBe('<p>Ask the pilot.</p>\n')
})

test('pages are made again only where their template or what they hold has changed', async () => {
  const template = await addTemplate('Two columns', two)
  await choose('Visit', 'below', template)
  const first = await filesOfSite(pool(), await site())
  await fill('Ferry', 'aside', '<p>Ring the bell.</p>')
  const second = await filesOfSite(pool(), await site())
  const changed = (from: typeof first, to: typeof first) =>
    to.manifest.flatMap(({ path, hash }) => (from.manifest.find((file) => file.path === path)?.hash === hash ? [] : [path])) // prettier-ignore
  expect(changed(first, second)).toEqual(['visit/ferry.html'])
  const was = (await site()).templates.find((one) => one.id === template)!.source
  await make({ kind: 'setTemplate', templateId: template, source: await putBlob(pool(), `<hr>${two}`), was })
  const third = await filesOfSite(pool(), await site())
  expect(changed(second, third)).toEqual(['visit/ferry.html', 'visit/tides.html'])
  const bytes = await third.bytesOf(['visit/ferry.html'])
  expect(readHtml(bytes.get('visit/ferry.html')!.toString(), true).errorCount).toBe(1)
})

test('what comes from outside is read as a change of a template only where it is one', async () => {
  const templateId = randomUUID()
  const refused = (request: object) => expect(() => readChange(request)).toThrow(expect.objectContaining({ code: 'bad-request' }))
  refused({ kind: 'addTemplate', templateId, name: 'x', text: 1, basedOn: null })
  refused({ kind: 'setTemplateField', templateId, field: 'source', value: 'x', was: null })
  refused({ kind: 'chooseTemplate', pageIds: [], of: 'page', templateId })
  refused({ kind: 'setOutput', output: { indent: '3', lineEnd: 'lf', comments: true }, was: (await site()).output })
  refused({ kind: 'setContent', pageId: templateId, slot: 'x'.repeat(101), text: '', was: emptyHash })
}) // prettier-ignore
