import { createCipheriv, randomUUID } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import pg from 'pg'
import { planSite, readOutline } from '#core/plan'
import { diffSites, emptyHash } from '#core/site'
import { getTexts, hashOf, putBlob } from '../../contents/blobs'
import { readConfig } from '../../platform/config'
import { pool, transaction } from '../../platform/pool'
import { saveRevision } from '../rows/history-rows'
import { deleteSite, listSites } from '../rows/site-rows'
import { housekeeping } from '../../housekeeping'
import { createSite } from '../create'
import { migrate } from '../../platform/migrate'
import { changeSite, catchUp, previewChange } from './changes'
import { stepHistory } from './step-history'
import { readChange } from './change-request'
import { filesOfSite } from '../build'
import { seal, unseal } from '../../platform/secrets'
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

test('a site asked for again under one request id is made once', async () => {
  const request = randomUUID()
  const options = { name: 'Twice', language: 'en', plan: planSite(readOutline('Home'), 'Twice') }
  const made = await Promise.all([1, 2, 3].map(() => createSite(ids.accountId, options, request)))
  expect(new Set(made).size).toBe(1)
  expect((await listSites(pool(), ids.accountId)).filter((one) => one.name === 'Twice')).toHaveLength(1)
})

describe('housekeeping', () => {
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
})

test('a database from before keeps its addresses, its history and its destinations’ passwords', async () => {
  const admin = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await admin.connect()
  const name = `before_${randomUUID().replaceAll('-', '')}`
  await admin.query(`CREATE DATABASE ${name}`)
  const url = new URL(process.env.DATABASE_URL!)
  url.pathname = `/${name}`
  const client = new pg.Client({ connectionString: url.href })
  await client.connect()
  try {
    const folder = 'server/platform/migrations'
    const files = (await readdir(folder)).sort()
    for (const file of files.filter((one) => one < '006'))
      await client.query(await readFile(path.join(folder, file), 'utf8'))
    const hash = 'a'.repeat(64)
    await client.query(`
      INSERT INTO accounts (id, email, password_hash) VALUES ('00000000-0000-4000-8000-000000000001', 'a@b.example', 'x');
      INSERT INTO blobs VALUES ('${hash}', 'x');
      INSERT INTO sites (id, account_id, name, language, title_pattern, home_id, scheme, next_seq)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000001', 'x', 'en', 'x', '00000000-0000-4000-8000-000000000003', '{}', 2);
      INSERT INTO pages (site_id, id, position, seq, label, trial, in_menus, content, addresses)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000003', 'a0', 1, 'x', false, true, '${hash}', '{old.html}');
      INSERT INTO templates (site_id, id, name, source)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000004', 'x', '${hash}');
      INSERT INTO destinations (site_id, name, host, port, account, password_sealed, folder, public_address, host_key)
        VALUES ('00000000-0000-4000-8000-000000000002', 'x', 'h', 22, 'a', 'x', '', 'x', 'x');
      INSERT INTO history (site_id, revision, kind, title, diff, state)
        VALUES ('00000000-0000-4000-8000-000000000002', 1, 'change', 'x', '{"pages": {"p": {"before": {"content": "${hash}"}, "after": {"content": "${hash}"}}}}', 'done');`)
    for (const file of files.filter((one) => one >= '006'))
      await client.query(await readFile(path.join(folder, file), 'utf8'))
    expect((await client.query('SELECT path FROM delivered_addresses')).rows).toEqual([{ path: 'old.html' }])
    expect((await client.query('SELECT hash FROM history_contents')).rows).toEqual([{ hash }])
    expect((await client.query('SELECT template_id FROM sites')).rows).toEqual([
      { template_id: '00000000-0000-4000-8000-000000000004' },
    ])
  } finally {
    await client.end()
    await admin.query(`DROP DATABASE ${name} WITH (FORCE)`)
    await admin.end()
  }
  // Sealed before purposes had keys of their own: a nonce, a tag and the text, under the bare key.
  const { key } = readConfig(process.env)
  const cipher = createCipheriv('aes-256-gcm', key, Buffer.alloc(12, 1))
  const text = Buffer.concat([cipher.update('open sesame'), cipher.final()])
  expect(unseal(Buffer.concat([Buffer.alloc(12, 1), cipher.getAuthTag(), text]), 'any use')).toBe(
    'open sesame',
  )
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
