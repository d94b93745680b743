import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { planSite, readOutline } from '#core/plan'
import { diffSites, emptyHash } from '#core/site'
import { getTexts, hashOf } from '../../contents/blobs'
import { pool, transaction } from '../../platform/pool'
import { saveRevision } from '../rows/history-rows'
import { listSites } from '../rows/site-rows'
import { createSite } from '../create'
import { changeSite, catchUp, previewChange } from './changes'
import { stepHistory } from './step-history'
import { readChange } from './change-request'
import { filesOfSite } from '../build'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../../testing/support'

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

test('the empty text has the hash that windows take for it', () => {
  expect(hashOf('')).toBe(emptyHash)
})

describe('a change', () => {
  test('is made once under one request id, undo as well', async () => {
    const { id, label } = await page('Visit')
    const request = randomUUID()
    const make = () =>
      changeSite(ids.siteId, ids.accountId, 0, () => ({ kind: 'addPages', parentId: id, after: null, pages: [{ id: randomUUID(), label: 'News' }], content: emptyHash }), true, request) // prettier-ignore
    const [first] = [await make()]
    const [second, third] = await Promise.all([make(), make()])
    expect([first.revision, second!.revision, third!.revision]).toEqual([1, 1, 1])
    await rename(label, 'Come')
    const undo = randomUUID()
    await stepHistory(ids.siteId, ids.accountId, 0, 'undo', undo)
    await stepHistory(ids.siteId, ids.accountId, 0, 'undo', undo)
    expect((await site()).pages.map((one) => one.label)).toEqual(expect.arrayContaining(['Visit', 'News']))
  })

  test('that would leave a site in disorder is refused and logged, and never stored', async () => {
    const before = await site()
    const visit = await page('Visit')
    const broken = {
      ...before,
      pages: before.pages.map((one) => (one.id === visit.id ? { ...one, parentId: visit.id } : one)),
    }
    const diff = diffSites(before, broken)
    await expect(
      transaction((client) => saveRevision(client, broken, { kind: 'change', title: 'x', diff, by: null })),
    ).rejects.toMatchObject({ code: 'not-whole' })
    expect(await site()).toEqual(before)
    // The very request that once ended the server.
    const add = (id: string) =>
      changeSite(ids.siteId, ids.accountId, 0, () => ({
        kind: 'addPages',
        parentId: null,
        after: null,
        pages: [{ id, label: 'a', children: [{ id, label: 'b' }] }],
        content: emptyHash,
      }))
    await expect(add(randomUUID())).rejects.toMatchObject({ code: 'invalid' })
    // Of a page that is there it is taken for one asked again.
    await add(visit.id)
    expect(await site()).toEqual(before)
  })

  test('that copies a page and one below it makes each copy once', async () => {
    const [visit, tides] = [await page('Visit'), await page('Tides')]
    const newIds = { [visit.id]: randomUUID(), [tides.id]: randomUUID() }
    await changeSite(ids.siteId, ids.accountId, 0, () => ({
      kind: 'duplicatePages',
      pageIds: [visit.id, tides.id],
      newIds,
    }))
    expect((await site()).pages).toHaveLength(6)
  })

  test('rewrites what it makes wrong in the same revision, and undo takes both back to the byte', async () => {
    await writePage(ids.siteId, ids.accountId, 'Contact', '<a  href="/visit/tides.html">t</a>')
    const before = await site()
    await rename('Visit', 'Getting here')
    expect(await contentOf('Contact')).toBe('<a  href="/getting-here/tides.html">t</a>')
    await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
    expect(await site()).toEqual(before)
    await stepHistory(ids.siteId, ids.accountId, 0, 'redo')
    expect(await contentOf('Contact')).toBe('<a  href="/getting-here/tides.html">t</a>')
  })

  test('shows its ripple without being made', async () => {
    await writePage(ids.siteId, ids.accountId, 'Contact', '<a href="/visit/tides.html">t</a>')
    const { id } = await page('Visit')
    const before = await site()
    const ripple = await previewChange(ids.siteId, ids.accountId, () => ({
      kind: 'setPageText',
      pageId: id,
      field: 'label',
      value: 'Come',
      was: 'Visit',
    }))
    expect(ripple).toMatchObject({ linkCount: 1, brokenCount: 0 })
    expect(ripple.moved.map(({ from, to }) => [from, to])).toContainEqual([
      'visit/tides.html',
      'come/tides.html',
    ])
    expect(
      await previewChange(ids.siteId, ids.accountId, () => ({ kind: 'removePages', pageIds: [id] })),
    ).toMatchObject({ brokenCount: 1 })
    expect(await site()).toEqual(before)
  })

  test('that reaches further than its page is made only once its ripple was shown', async () => {
    const { id } = await page('Visit')
    const renameVisit = (value: string, was: string, shown: boolean) =>
      changeSite(
        ids.siteId,
        ids.accountId,
        0,
        () => ({ kind: 'setPageText', pageId: id, field: 'label', value, was }),
        shown,
      )
    // Its own file and those below it are all that changes: its author sees them in the row.
    await renameVisit('Come', 'Visit', false)
    await writePage(ids.siteId, ids.accountId, 'Contact', '<a href="/come/tides.html">t</a>')
    const before = await site()
    await expect(renameVisit('Getting here', 'Come', false)).rejects.toMatchObject({
      code: 'ask-first',
      detail: { ripple: { linkCount: 1, lines: [{ owner: 'contact.html', line: 1 }] } },
    })
    expect(await site()).toEqual(before)
    await renameVisit('Getting here', 'Come', true)
    expect(await contentOf('Contact')).toBe('<a href="/getting-here/tides.html">t</a>')
  })

  test('answers with everything the window has not seen', async () => {
    await rename('Visit', 'Come')
    const seen = await rename('Contact', 'Write')
    expect(seen.revision).toBe(2)
    expect(seen.diffs).toHaveLength(2)
    expect(await catchUp(ids.siteId, ids.accountId, 1)).toMatchObject({
      revision: 2,
      undo: 'a new label for “Contact”',
      redo: null,
    })
  })

  test('made at the same time by twenty windows is lost by none', async () => {
    const { id: parentId } = await page('Visit')
    await Promise.all(
      Array.from({ length: 20 }, () =>
        changeSite(ids.siteId, ids.accountId, 0, () => ({
          kind: 'addPages', parentId, after: null, pages: [{ id: crypto.randomUUID(), label: 'New' }], content: '' ,
        })).catch((error: unknown) => error),
      ),
    ) // prettier-ignore
    // The content of a page has to be stored: an unknown hash is refused as a whole.
    expect((await site()).pages).toHaveLength(4)
    const { prepareChange } = await import('./change-request')
    await Promise.all(
      Array.from({ length: 20 }, () =>
        changeSite(ids.siteId, ids.accountId, 0, (client) =>
          prepareChange(client, {
            kind: 'addPages',
            parentId,
            after: null,
            pages: [{ id: crypto.randomUUID(), label: 'New' }],
          }),
        ),
      ),
    )
    const after = await site()
    expect(after.pages).toHaveLength(24)
    expect(new Set(after.pages.map((one) => one.seq)).size).toBe(24)
  })

  test('of another’s site is not found', async () => {
    const other = await accountWithSite('Home')
    await expect(
      changeSite(ids.siteId, other.accountId, 0, () => ({ kind: 'removePages', pageIds: [] })),
    ).rejects.toMatchObject({ status: 404 })
  })

  test('to a field changed since is refused with what it holds now', async () => {
    const { id } = await page('Contact')
    await rename('Contact', 'Write')
    await expect(
      changeSite(ids.siteId, ids.accountId, 0, () => ({
        kind: 'setPageText',
        pageId: id,
        field: 'label',
        value: 'Call',
        was: 'Contact',
      })),
    ).rejects.toMatchObject({ code: 'changed-elsewhere', detail: { now: 'Write' } })
  })
})

test('a manifest is made anew only where it can have changed, and is the same either way', async () => {
  const first = await filesOfSite(pool(), await site())
  await writePage(ids.siteId, ids.accountId, 'Tides', '<p>x</p>')
  const second = await filesOfSite(pool(), await site())
  const changed = second.manifest.filter(
    (file) => first.manifest.find((one) => one.path === file.path)?.hash !== file.hash,
  )
  expect(changed.map((file) => file.path)).toEqual(['visit/tides.html'])
  const bytes = await second.bytesOf(second.manifest.map((file) => file.path))
  const { hashOf } = await import('../../contents/blobs')
  for (const file of second.manifest) expect(hashOf(bytes.get(file.path)!)).toBe(file.hash)
})

test('input from outside is checked', () => {
  const bad = [
    null, {}, { kind: 'nonsense' }, { kind: 'toString' }, { kind: 'removePages', pageIds: ['x'] },
    { kind: 'setPageText', pageId: crypto.randomUUID(), field: 'id', value: 'x', was: null },
    { kind: 'setSetting', field: 'language', value: '<script>', was: 'en' },
    { kind: 'setPageText', pageId: crypto.randomUUID(), field: 'language', value: '<script>', was: null },
    { kind: 'addPages', parentId: null, after: null, pages: [{ id: crypto.randomUUID(), label: 'x'.repeat(10_000) }] },
    { kind: 'setTranslations', pairs: [] }, { kind: 'setTranslations', pairs: [{ pageId: crypto.randomUUID(), ofId: 'x' }] },
    { kind: 'translatePages', pageId: crypto.randomUUID(), language: '<script>', newIds: {} },
    { kind: 'translatePages', pageId: crypto.randomUUID(), language: 'de', newIds: { x: crypto.randomUUID() } },
  ] // prettier-ignore
  for (const input of bad) expect(() => readChange(input)).toThrow()
})

test('a site asked for again under one request id is made once', async () => {
  const request = randomUUID()
  const options = { name: 'Twice', language: 'en', plan: planSite(readOutline('Home'), 'Twice') }
  const made = await Promise.all([1, 2, 3].map(() => createSite(ids.accountId, options, request)))
  expect(new Set(made).size).toBe(1)
  expect((await listSites(pool(), ids.accountId)).filter((one) => one.name === 'Twice')).toHaveLength(1)
})

test('what a window has missed ends with the revision that it is told, whatever is made meanwhile', async () => {
  const { accountId, siteId } = await accountWithSite('Home\n  Visit')
  const visit = (await siteOf(siteId, accountId)).pages.find(({ label }) => label === 'Visit')!
  const { revision: first } = await catchUp(siteId, accountId, 0)
  let isDone = false
  const changing = (async () => {
    for (let at = 0; at < 150; at++)
      await changeSite(siteId, accountId, 0, () => ({
        kind: 'setPageText',
        pageId: visit.id,
        field: 'title',
        value: `Title ${at}`,
        was: at === 0 ? null : `Title ${at - 1}`,
      }))
    isDone = true
  })()
  const odd: object[] = []
  const asking = Array.from({ length: 4 }, async () => {
    while (!isDone) {
      const { revision, diffs } = await catchUp(siteId, accountId, first)
      if (diffs.length !== revision - first) odd.push({ revision: revision - first, has: diffs.length })
    }
  })
  await Promise.all([changing, ...asking])
  expect(odd).toEqual([])
  expect((await catchUp(siteId, accountId, first)).diffs).toHaveLength(150)
})
