import { randomBytes, randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import type { ChangeRequest } from '#core/change'
import type { Template } from '#core/site'
import { getTexts, hashOf } from '../contents/blobs'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { filesOfSite } from './build'
import { prepareChange, readChange, readChangeTexts } from './changes/change-request'
import { changeSite } from './changes/changes'
import { stepHistory } from './changes/step-history'
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

test('a feed holds what its pages say, in whichever portion of the site they are made, and is made again with them', async () => {
  const outline = `Home\n  News\n${Array.from({ length: 60 }, (_, at) => `    Notice ${at}, ${(at % 28) + 1} March 2031\n`).join('')}` // prettier-ignore
  ids = await accountWithSite(outline)
  const set = (change: ChangeRequest) => changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, change)) // prettier-ignore
  const { pages, output } = await site()
  const pageIds = pages.filter(({ label }) => label === 'News').map(({ id }) => id)
  await set({ kind: 'setPageFlag', pageIds, flag: 'dated', value: true })
  await set({ kind: 'setSetting', field: 'publicAddress', value: 'https://club.example/', was: '' })
  await set({ kind: 'setOutput', output: { ...output, feed: true }, was: output })
  await writePage(ids.siteId, ids.accountId, 'Notice 27, 28 March 2031', '<p>The first of March is over.</p>')
  const feed = async () => {
    const files = await filesOfSite(pool(), await site())
    return [
      files.manifest.find(({ path }) => path === 'feed.xml')!.hash,
      (await files.bytesOf(['feed.xml'])).get('feed.xml')!.toString(),
    ] as const
  }
  const [hash, text] = await feed()
  expect(hashOf(text)).toBe(hash)
  expect(text).toContain('&lt;p&gt;The first of March is over.&lt;/p&gt;')
  expect(text.match(/<entry>/g)).toHaveLength(20)
  await writePage(ids.siteId, ids.accountId, 'Notice 27, 28 March 2031', '<p>April.</p>')
  expect((await feed())[1]).toContain('&lt;p&gt;April.&lt;/p&gt;')
  // One that it does not tell of changes nothing in it.
  const [before] = await feed()
  await writePage(ids.siteId, ids.accountId, 'Notice 0, 1 March 2031', '<p>Old.</p>')
  expect((await feed())[0]).toBe(before)
})

test('templates that name what is made are written with it, as one step; one that cannot be read is refused', async () => {
  const { output, templates } = await site()
  const [{ id: templateId, source: was }] = templates as [Template]
  const ask = (text: string): ChangeRequest => ({
    kind: 'setOutput',
    output: { ...output, feed: true },
    was: output,
    templates: [{ templateId, text, was }],
  })
  await expect(readChangeTexts(ask('<a>'.repeat(20_000)))).rejects.toMatchObject({
    code: 'template-too-heavy',
  })
  const request = readChange(ask('<title>{title}</title>\r\n<slot name="content"></slot>\n'))
  await readChangeTexts(request)
  await changeSite(ids.siteId, ids.accountId, 0, (client) => prepareChange(client, request))
  const after = await site()
  expect(after.output.feed).toBe(true)
  const source = after.templates[0]!.source
  expect((await getTexts(pool(), [source])).get(source)).toBe('<title>{title}</title>\n<slot name="content"></slot>\n') // prettier-ignore
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  const undone = await site()
  expect([undone.output.feed, undone.templates[0]!.source]).toEqual([undefined, was])
})
