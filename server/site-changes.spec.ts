import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { emptyHash } from '#core/site'
import { getTexts, hashOf } from './database/blobs'
import { readConfig } from './config'
import { pool } from './database/pool'
import { migrate } from './database/migrate'
import { changeSite, catchUp, previewChange, stepHistory } from './site-changes'
import { readChange } from './change-input'
import { filesOfSite } from './site-build'
import { seal, unseal } from './secrets'
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

test('the empty text has the hash that windows take for it', () => {
  expect(hashOf('')).toBe(emptyHash)
})

describe('a change', () => {
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
    const { prepareChange } = await import('./change-input')
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
  const { hashOf } = await import('./database/blobs')
  for (const file of second.manifest) expect(hashOf(bytes.get(file.path)!)).toBe(file.hash)
})

test('input from outside is checked', () => {
  const bad = [
    null, {}, { kind: 'nonsense' }, { kind: 'toString' }, { kind: 'removePages', pageIds: ['x'] },
    { kind: 'setPageText', pageId: crypto.randomUUID(), field: 'id', value: 'x', was: null },
    { kind: 'setSetting', field: 'language', value: '<script>', was: 'en' },
    { kind: 'addPages', parentId: null, after: null, pages: [{ id: crypto.randomUUID(), label: 'x'.repeat(10_000) }] },
  ] // prettier-ignore
  for (const input of bad) expect(() => readChange(input)).toThrow()
})

test('migrations run once, and a later version’s database is refused', async () => {
  expect(await migrate()).toEqual([])
  await pool().query(`INSERT INTO migrations (name) VALUES ('999_future.sql')`)
  await expect(migrate()).rejects.toThrow('later version')
  await pool().query(`DELETE FROM migrations WHERE name = '999_future.sql'`)
})

test('a secret opens with its own key only', () => {
  const sealed = seal('open sesame', 'host.example')
  expect(unseal(sealed, 'host.example')).toBe('open sesame')
  expect(() => unseal(sealed, 'host.example', Buffer.alloc(32, 1))).toThrow('Enter the password again')
  expect(() => unseal(sealed, 'other.example')).toThrow('Enter the password again')
})

test('a configuration that is not complete names what is wrong and shows no secret', () => {
  expect(() => readConfig({ RUBRICANT_KEY: 'sehr geheim', PORT: 'x' })).toThrow(
    /PORT.*DATABASE_URL.*RUBRICANT_KEY/,
  )
  expect(() => readConfig({ RUBRICANT_KEY: 'sehr geheim' })).not.toThrow(/geheim/)
})
