import { randomBytes, randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { planSite, readOutline, treeOf } from '#core/plan'
import { checkSite } from '#core/site'
import { getTexts, PostgresContents } from '#server/contents'
import { pool } from '#server/platform'
import {
  changeSite,
  createSite,
  filesOfSite,
  findingsOf,
  listSites,
  noteDelivered,
  stepHistory,
} from '#server/sites'
import { housekeeping } from '../housekeeping'
import { accountWithSite, freshDatabase, siteOf } from '../testing/support'
import { zipped } from '../testing/zipped'
import { bringIn, lookAtBringing } from './bringing'
import { endBringers, roomMb } from './in-thread'
import {
  beginBringing,
  broughtBytes,
  correctBringing,
  dropBringing,
  takeBroughtFile,
  takeBroughtPortions,
  takeBroughtWhole,
  takeBroughtZip,
} from './taking'
import type { BringingWishes } from './understanding'

let database: Awaited<ReturnType<typeof freshDatabase>>
let accountId: string
beforeAll(async () => {
  database = await freshDatabase()
  ;({ accountId } = await accountWithSite('Home'))
})
afterAll(async () => {
  await endBringers()
  await database.close()
})

const kept = {
  names: 'kept',
  lifts: true,
  generates: true,
  planBy: 'found',
  same: 'leave',
  frame: 'own',
} as const

test('names of an archive that does not say how they are written are read as UTF-8 where they are', async () => {
  const html = '<!DOCTYPE html><title>x</title>'
  const archive = Buffer.concat(await zipped({ 'index.html': html, 'été.html': html }))
  // Bit 11 of the flags, in every local header and in the list at the end (APPNOTE 4.3.7, 4.3.12).
  for (const [sign, at] of [['PK\u0003\u0004', 6], ['PK\u0001\u0002', 8]] as const)
    for (let found = archive.indexOf(sign, 0, 'latin1'); found >= 0; found = archive.indexOf(sign, found + 4, 'latin1'))
      archive.writeUInt16LE(archive.readUInt16LE(found + at) & ~0x800, found + at)
  const id = await beginBringing(accountId, '')
  await takeBroughtZip(accountId, id, [archive])
  const view = await lookAtBringing(accountId, id, kept)
  expect(view.lines.map(({ was }) => was).sort()).toEqual(['index.html', 'été.html'])
  await dropBringing(accountId, id)
}) // prettier-ignore

test('what was looked at is what is made, also with another file in between', async () => {
  const page = (title: string) => `<!DOCTYPE html><title>${title}</title><h1>${title}</h1>`
  const id = await beginBringing(accountId, '')
  await takeBroughtZip(accountId, id, await zipped({ 'index.html': page('Home'), 'a.html': page('A') }))
  expect((await lookAtBringing(accountId, id, kept)).lines).toHaveLength(2)
  await takeBroughtFile(accountId, id, 'b.html', [Buffer.from(page('B'))])
  expect((await lookAtBringing(accountId, id, kept)).lines).toHaveLength(3)
  // Another of the same size in its place.
  await takeBroughtFile(accountId, id, 'b.html', [Buffer.from(page('C'))])
  const siteId = await bringIn(accountId, id, { ...kept, name: 'Mine' }, randomUUID())
  expect((await siteOf(siteId, accountId)).pages.map(({ label }) => label).sort()).toEqual(['A', 'C', 'Home'])
})

test('the plan is corrected before anything is made, and the one that was found is put back', async () => {
  const page = (title: string, links = '') =>
    `<!DOCTYPE html><title>${title}</title><h1>${title}</h1>${links}`
  const id = await beginBringing(accountId, '')
  await takeBroughtZip(
    accountId,
    id,
    await zipped({
      'old/index.html': page('Home', '<a href="b/">B</a>'),
      'old/b/index.html': page('Bees', '<a href="c.html">C</a>'),
      'old/b/c.html': page('Combs'),
      'old/d.html': page('Drones'),
    }),
  )
  const plan = async (wishes: Partial<BringingWishes> = {}) =>
    (await lookAtBringing(accountId, id, { ...kept, ...wishes })).lines.map(
      ({ label, depth, was }) => `${'  '.repeat(depth)}${label} ${was}`,
    )
  const found = ['Home index.html', 'Bees b/index.html', '  Combs b/c.html', 'Drones d.html']
  expect(await plan()).toEqual(found)
  // A page that nothing but a folder puts below another is at the top by other tellings.
  expect(await plan({ planBy: 'menu' })).toEqual(found)
  const corrected = [
    { path: 'index.html', label: 'Home', depth: 0 },
    { path: 'd.html', label: 'The drones', depth: 0 },
    { path: 'b/index.html', label: 'Bees', depth: 1 },
  ]
  await correctBringing(accountId, id, { plan: corrected })
  const wanted = ['Home index.html', 'The drones d.html', '  Bees b/index.html', '    Combs b/c.html']
  expect(await plan()).toEqual(wanted)
  await correctBringing(accountId, id, { plan: null })
  expect(await plan()).toEqual(found)
  await correctBringing(accountId, id, { plan: corrected })
  const { accountId: other } = await accountWithSite('Home')
  await expect(correctBringing(other, id, { plan: null })).rejects.toMatchObject({ status: 404 })
  const siteId = await bringIn(accountId, id, { ...kept, name: 'Hive' }, randomUUID())
  const site = await siteOf(siteId, accountId)
  expect(checkSite(site)).toEqual([])
  expect(treeOf(site).places.map(({ page: { label }, depth }) => '  '.repeat(depth) + label)).toEqual([
    'Home',
    'The drones',
    '  Bees',
    '    Combs',
  ])
})

test('edges of slots are moved before anything is made, kept with what waits, and put back', async () => {
  const page = (title: string, text: string) =>
    `<!DOCTYPE html><title>${title}</title><div id="a">\n<h1>${title}</h1>\n<p>${text}</p>\n<p class="end">So far.</p>\n</div>`
  const id = await beginBringing(accountId, '')
  await takeBroughtZip(
    accountId,
    id,
    await zipped({ 'index.html': page('Home', 'one'), 'a.html': page('Terns', 'two') }),
  )
  const sourceAndEdges = async (wishes: Partial<BringingWishes> = {}) => {
    const { templates, marks } = await lookAtBringing(accountId, id, { ...kept, ...wishes })
    const { source, model } = templates[0]!
    return { source, marks, edges: model!.slots.find(({ name }) => name === 'content')!.edges }
  }
  const found = await sourceAndEdges()
  expect(found.source).toContain('<slot name="content"></slot>\n<p class="end">')
  const move = found.edges.endOut
  if (!move || !('set' in move)) throw new Error('its end cannot be moved')
  await correctBringing(accountId, id, { marks: [move.set] })
  const moved = await sourceAndEdges()
  expect(moved.source).toContain('<slot name="content"></slot>\n</div>')
  expect(moved.marks).toEqual([move.set])
  // The plan is corrected by itself, and pages that join a site have theirs, too.
  await correctBringing(accountId, id, { plan: [{ path: 'index.html', label: 'Home', depth: 0 }] })
  expect((await sourceAndEdges()).source).toEqual(moved.source)
  const into = await createSite(accountId, {
    name: 'Skerry',
    language: 'en',
    plan: planSite(readOutline('Home'), 'Skerry'),
  })
  expect((await sourceAndEdges({ into, same: 'beside' })).source).toContain(
    '<slot name="content"></slot>\n</div>',
  )
  await correctBringing(accountId, id, { marks: null })
  expect((await sourceAndEdges()).source).toEqual(found.source)
  await correctBringing(accountId, id, { marks: [move.set] })
  const siteId = await bringIn(accountId, id, { ...kept, name: 'Terns' }, randomUUID())
  const site = await siteOf(siteId, accountId)
  const terns = site.pages.find(({ label }) => label === 'Terns')!
  expect((await getTexts(pool(), [terns.content])).get(terns.content)).toBe(
    '<p>two</p>\n<p class="end">So far.</p>',
  )
})

test('tells how far it is, and ends when nobody waits for it any more', async () => {
  const id = await beginBringing(accountId, '')
  const files = Array.from({ length: 60 }, (_, at) => [`p${at}.html`, `<title>P${at}</title><h1>P${at}</h1>`])
  await takeBroughtZip(accountId, id, await zipped(Object.fromEntries(files) as Record<string, string>))
  const told: [number, number][] = []
  const view = await lookAtBringing(accountId, id, kept, { tell: (done, all) => void told.push([done, all]) })
  expect(view.lines).toHaveLength(60)
  // Messages of a thread come when this one has time for them.
  expect(told.length).toBeGreaterThan(3)
  expect(told.every(([done, all]) => done <= all && all === 120)).toBe(true)
  const leaving = new AbortController()
  const looked = lookAtBringing(accountId, id, { ...kept, generates: false }, { signal: leaving.signal })
  leaving.abort()
  await expect(looked).rejects.toMatchObject({ name: 'AbortError' })
  await dropBringing(accountId, id)
})

describe('the example', () => {
  test('is understood: plan, template, what is left out and how letters are read', async () => {
    const id = await beginBringing(accountId, '')
    await takeBroughtZip(accountId, id, [await readFile('demo/saltings-ferry.zip')])
    const view = await lookAtBringing(accountId, id, kept)
    expect(view).toMatchObject({ name: 'Saltings Ferry', titlePattern: '{page} | {site}', fileCount: 4 })
    expect(view.lines.map(({ label, depth }) => '  '.repeat(depth) + label).slice(0, 6)).toEqual([
      'Home', 'Sailing times', '  Summer', '  Winter', 'Fares', 'Our boats',
    ]) // prettier-ignore
    expect(view.templates).toMatchObject([
      { name: 'Shared template', pages: 16, slots: [], isWhole: false },
      { name: 'Whole pages', pages: 1, isWhole: true },
    ])
    expect(view.templates[0]!.source).toContain(
      '<site-menu levels="1" own="mark" home="first" as="list" own-item-class="here" above-item-class="in" id="menu">',
    )
    // All stay, those in a folder without a home page and one with another ending, too.
    expect(view.lines.filter(({ was, path }) => was !== path)).toEqual([])
    expect(view.lines.map(({ path }) => path)).toContain('old/history.htm')
    expect(view.remarks.find(({ path }) => path === 'slip/birds.html')!.why).toContain('windows-1252')
    // It is not made before its author says so.
    expect((await listSites(pool(), accountId)).map(({ name }) => name)).not.toContain('Saltings Ferry')
    await dropBringing(accountId, id)
  })

  test('is brought in once, builds as it was, and its faults are findings', async () => {
    const id = await beginBringing(accountId, '')
    await takeBroughtZip(accountId, id, [await readFile('demo/saltings-ferry.zip')])
    const request = randomUUID()
    const siteId = await bringIn(accountId, id, { ...kept, name: 'Ferry' }, request)
    // Asked for again because its answer was lost: what waited is gone, and what came of it is told.
    expect(await bringIn(accountId, id, { ...kept, name: 'Ferry' }, request)).toBe(siteId)
    await expect(bringIn(accountId, id, { ...kept, name: 'Ferry' }, randomUUID())).rejects.toMatchObject({ status: 404 })
    const site = await siteOf(siteId, accountId)
    expect(site.name).toBe('Ferry')
    const { manifest, bytesOf } = await filesOfSite(pool(), site)
    const paths = manifest.map(({ path }) => path)
    expect(paths).toEqual(expect.arrayContaining(['index.html', 'slip/birds.html', 'old/history.htm', 'css/ferry.css']))
    const birds = (await bytesOf(['slip/birds.html'])).get('slip/birds.html')!.toString('utf8')
    expect(birds).toContain('the café’s roof – really. Éva counted “at least” forty')
    const { findings } = await findingsOf(site, new AbortController().signal)
    const broken = findings.filter(({ rule }) => rule === 'broken-reference').map(({ what }) => what.split(' ')[0])
    expect(broken.sort()).toEqual(['../img/curlew.png', '../tides/2024.html', 'Fares.html'])
    expect(findings.some(({ rule }) => rule === 'tags-do-not-match')).toBe(true)
  }) // prettier-ignore

  test('under the usual scheme forwards from each address that changed', async () => {
    const id = await beginBringing(accountId, '')
    await takeBroughtZip(accountId, id, [await readFile('demo/saltings-ferry.zip')])
    const siteId = await bringIn(accountId, id, { ...kept, names: 'scheme', name: '' }, randomUUID())
    const site = await siteOf(siteId, accountId)
    const history = site.pages.find(({ label }) => label === 'History')!
    expect(namesOf(site).pages.get(history.id)!.path).toBe('history.html')
    expect((await filesOfSite(pool(), site)).manifest.map(({ path }) => path)).toContain('old/history.htm')
    // What is known of the world outlasts what deliveries say.
    const before = (await siteOf(siteId, accountId)).pages.map(({ addresses }) => addresses)
    expect(before.flat().length).toBeGreaterThan(0)
    await noteDelivered(siteId, accountId)
    expect((await siteOf(siteId, accountId)).pages.map(({ addresses }) => addresses)).toEqual(before)
  })
})

test('files come one by one too; what systems put beside them is left out', async () => {
  const id = await beginBringing(accountId, 'My site')
  const send = (path: string, text: string) => takeBroughtFile(accountId, id, path, [Buffer.from(text)])
  await send('My site/index.html', '<h1>Hello</h1>')
  await send('My site\\sub\\.\\two.html', '<p><a href="../index.html">back</a></p>')
  await send('My site/.DS_Store', 'x')
  const view = await lookAtBringing(accountId, id, kept)
  expect(view.lines.map(({ was }) => was)).toEqual(['index.html', 'sub/two.html'])
  expect(view.fileCount).toBe(0)
  // What is too large to be read as a page is not lost.
  await send('My site/log.html', 'x'.repeat(4_100_000))
  const more = await lookAtBringing(accountId, id, kept)
  expect([more.lines.length, more.fileCount]).toEqual([2, 1])
  expect(more.remarks.find(({ path }) => path === 'log.html')!.why).toContain('larger than a page may be')
  for (const path of ['../up.html', '/', 'a/../../b', `${'x'.repeat(1_100)}`, 'a\u0007.html'])
    await expect(send(path, 'x')).rejects.toMatchObject({ code: 'bad-input' })
})

test('what waits is its account’s alone, and kept only while it waits', async () => {
  const { accountId: stranger } = await accountWithSite('Home')
  const id = await beginBringing(accountId, 'Mine')
  const bytes = randomBytes(200)
  await takeBroughtFile(accountId, id, 'index.html', [Buffer.from('x')])
  await takeBroughtFile(accountId, id, 'a.bin', [bytes])
  const theirs = [
    lookAtBringing(stranger, id, kept),
    takeBroughtFile(stranger, id, 'b.html', [bytes]),
    takeBroughtZip(stranger, id, [bytes]),
    bringIn(stranger, id, { ...kept, name: '' }, randomUUID()),
  ]
  await Promise.all(theirs.map((one) => expect(one).rejects.toMatchObject({ status: 404 })))
  await dropBringing(stranger, id)
  expect((await lookAtBringing(accountId, id, kept)).fileCount).toBe(1)
  const { rows } = await pool().query<{ hash: string }>(
    'SELECT hash FROM brought_files WHERE bringing_id = $1 AND path = $2',
    [id, 'a.bin'],
  )
  const store = new PostgresContents(pool())
  expect(await store.isNamed(rows[0]!.hash)).toBe(true)
  await pool().query(`UPDATE bringings SET touched_at = now() - interval '25 hours' WHERE id = $1`, [id])
  await housekeeping()
  expect(await store.isNamed(rows[0]!.hash)).toBe(false)
  await expect(lookAtBringing(accountId, id, kept)).rejects.toMatchObject({ status: 404 })
})

test('what comes in portions goes on where it was cut, is taken once, and is its account’s alone', async () => {
  const { accountId: stranger } = await accountWithSite('Home')
  const id = await beginBringing(accountId, '')
  const chart = randomBytes(1_500_000)
  const whole = Buffer.concat(
    await zipped({
      'index.html': '<!DOCTYPE html><title>Mine</title><p>x',
      'chart.bin': chart.toString('latin1'),
    }),
  )
  const upload = randomUUID()
  const cut = async function* () {
    yield whole.subarray(0, 1_200_000)
    throw new Error('cut')
  }
  await expect(takeBroughtPortions(accountId, id, upload, 0, cut())).rejects.toThrow('cut')
  const has = await broughtBytes(accountId, id, upload)
  expect(has).toBe(1_000_000)
  const take = (account = accountId) => takeBroughtWhole(account, id, upload, null, whole.length)
  await expect(take()).rejects.toMatchObject({ code: 'upload-gone' })
  const theirs = [
    takeBroughtPortions(stranger, id, upload, has, [whole.subarray(has)]),
    broughtBytes(stranger, id, upload),
    take(stranger),
  ]
  await Promise.all(theirs.map((one) => expect(one).rejects.toMatchObject({ status: 404 })))
  expect(await takeBroughtPortions(accountId, id, upload, has, [whole.subarray(has)])).toBe(whole.length)
  // Asked for again while it is taken, and afterwards, since the answer was lost.
  await Promise.all([take(), take()])
  await take()
  const { rows } = await pool().query('SELECT 1 FROM blob_portions WHERE content = $1', [upload])
  expect(rows).toEqual([])
  expect((await lookAtBringing(accountId, id, kept)).fileCount).toBe(1)
  // A file of a folder by its path; what is no archive is let go of.
  const other = randomUUID()
  await takeBroughtPortions(accountId, id, other, 0, [chart])
  await takeBroughtWhole(accountId, id, other, 'b.bin', chart.length)
  expect((await lookAtBringing(accountId, id, kept)).fileCount).toBe(2)
  const none = randomUUID()
  await takeBroughtPortions(accountId, id, none, 0, [chart])
  const asZip = () => takeBroughtWhole(accountId, id, none, null, chart.length)
  await expect(asZip()).rejects.toMatchObject({ code: 'not-an-archive' })
  expect(await broughtBytes(accountId, id, none)).toBe(0)
})

test('what is no site, or an archive that is damaged, ends in a sentence', async () => {
  const begin = () => beginBringing(accountId, '')
  const none = await begin()
  await takeBroughtFile(accountId, none, 'notes.txt', [Buffer.from('x')])
  await expect(lookAtBringing(accountId, none, kept)).rejects.toThrow('There is no page among these files')
  await expect(takeBroughtZip(accountId, await begin(), [randomBytes(500)])).rejects.toMatchObject({ code: 'not-an-archive' })
  const whole = Buffer.concat(await zipped({ 'index.html': '<p>x', 'a/b.html': '<p>y' }))
  await expect(takeBroughtZip(accountId, await begin(), [whole.subarray(0, 60)])).rejects.toMatchObject({ code: 'not-an-archive' })
  // Names that lead out of it: the archive is refused, and nothing of it taken.
  const out = Buffer.from(whole.toString('latin1').replaceAll('a/b.html', '../x.htm'), 'latin1')
  await expect(takeBroughtZip(accountId, await begin(), [out])).rejects.toMatchObject({ code: 'not-an-archive' })
}) // prettier-ignore

test('a site that needs more memory than most is understood with more; what needs too much is refused, and ends nothing', async () => {
  const id = await beginBringing(accountId, '')
  const text = (at: number) => `<!DOCTYPE html><title>${at}</title><h1>${at}</h1>${`<p class=a${at}><b>x</b>`.repeat(20_000)}`
  for (let at = 0; at < 6; at++) await takeBroughtFile(accountId, id, `${at || 'index'}.html`, [Buffer.from(text(at))])
  const before = { ...roomMb }
  try {
    await endBringers()
    Object.assign(roomMb, { lean: 24, ample: 24 })
    await expect(lookAtBringing(accountId, id, kept)).rejects.toMatchObject({ code: 'too-heavy' })
    await endBringers()
    roomMb.ample = before.ample
    expect((await lookAtBringing(accountId, id, kept)).lineCount).toBe(6)
  } finally {
    Object.assign(roomMb, before)
    await endBringers()
  }
}) // prettier-ignore

test('an archive that is changed anywhere ends in an answer', async () => {
  const whole = Buffer.concat(
    await zipped({ 'index.html': '<h1>x</h1>', 'css/a.css': 'p{}', 'b.html': '<p>y' }),
  )
  const id = await beginBringing(accountId, '')
  let taken = 0
  for (let at = 0; at < 300; at++) {
    const bytes = Buffer.from(whole)
    for (let nth = 0; nth <= at % 3; nth++)
      bytes[(at * 37 + nth * 101) % bytes.length] = (at * 91 + nth) % 256
    const code = await takeBroughtZip(accountId, id, [bytes]).then(
      () => 'taken',
      (error: { code?: string }) => error.code,
    )
    if (code === 'taken') taken++
    expect(['taken', 'not-an-archive', 'archive-too-large']).toContain(code)
  }
  expect(taken).toBeGreaterThan(0)
})

describe('pages that join a site', () => {
  const page = (title: string, body: string) => `<!DOCTYPE html><title>${title}</title><h1>${title}</h1>${body}`
  const files = { 'terns.html': page('Terns', '<p>Brought. <a href="visit/">Visit</a></p>'), 'new.html': page('New', '<img src="n.gif"><p><a href="terns.html">t</a></p>'), 'n.gif': 'GIF89a' }
  const joining = async (plan: string) => {
    const { accountId: owner, siteId } = await accountWithSite(plan)
    const id = await beginBringing(owner, 'old')
    await takeBroughtZip(owner, id, await zipped(files))
    return { owner, siteId, id }
  }

  test('are seen first, come as one step that can be undone, and leave what was there', async () => {
    const { owner, siteId, id } = await joining('Home\n  Terns\n  Visit\n    The pier')
    const view = await lookAtBringing(owner, id, { ...kept, into: siteId })
    expect(view.joining).toMatchObject({ siteName: 'Saltpan Chapel', under: null, pages: 1, files: 1 })
    expect(view.joining!.same).toMatchObject([{ path: 'terns.html', kind: 'page' }])
    expect(view.lines).toMatchObject([{ label: 'New', path: 'new.html', outcome: 'same', isAnew: false }])
    const before = await siteOf(siteId, owner)
    const wishes = { ...kept, into: siteId, same: 'replace', name: '' } as const
    const request = randomUUID()
    expect(await bringIn(owner, id, wishes, request)).toBe(siteId)
    expect(await bringIn(owner, id, wishes, request)).toBe(siteId)
    const after = await siteOf(siteId, owner)
    expect(after.pages.map(({ label }) => label).sort()).toEqual(['Home', 'New', 'Terns', 'The pier', 'Visit'])
    expect((await findingsOf(after, new AbortController().signal)).findings.filter(({ rule }) => /nowhere|missing/.test(rule))).toEqual([])
    const { undo } = await stepHistory(siteId, owner, 0, 'undo')
    expect(undo).toBeNull()
    const { pages, templates, files: left } = await siteOf(siteId, owner)
    expect({ pages, templates, left }).toEqual({ pages: before.pages, templates: before.templates, left: before.files })
  })

  test('are worked out again where the site was changed meanwhile, and join no stranger’s site', async () => {
    const { owner, siteId, id } = await joining('Home\n  Visit')
    const wishes = { ...kept, into: siteId, name: '' } as const
    const { accountId: stranger, siteId: theirs } = await accountWithSite('Home\n  Other')
    await expect(lookAtBringing(owner, id, { ...wishes, into: theirs })).rejects.toMatchObject({ status: 404 })
    await expect(bringIn(stranger, id, wishes, randomUUID())).rejects.toMatchObject({ status: 404 })
    const { pages: [home] } = await siteOf(siteId, owner)
    await expect(lookAtBringing(owner, id, { ...wishes, under: randomUUID() })).rejects.toMatchObject({ status: 404 })
    await lookAtBringing(owner, id, wishes)
    await changeSite(siteId, owner, 0, () => ({ kind: 'setPageText', pageId: home!.id, field: 'label', value: 'Start', was: home!.label }))
    expect(await bringIn(owner, id, wishes, randomUUID())).toBe(siteId)
    expect((await siteOf(siteId, owner)).pages.map(({ label }) => label).sort()).toEqual(['New', 'Start', 'Terns', 'Visit'])
  })
}) // prettier-ignore
