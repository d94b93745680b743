import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { ZipFile } from 'yazl'
import { checkSite, emptyHash, type Site } from '#core/site'
import { namesOf } from '#core/naming'
import { unpack } from '#server/contents'
import { pool } from '#server/platform'
import { filesOfSite, loadSite, versionsOf } from '#server/sites'
import { signUp } from '../accounts/accounts'
import { getTexts, putBlob } from '../contents/blobs'
import { noteDelivered } from '../sites/changes/delivered-addresses'
import { changeSite } from '../sites/changes/changes'
import { takeFile } from '../sites/files'
import { listNotes, settleNote, writeNote } from '../notes/notes'
import { accountWithSite, delivered, freshDatabase, siteOf, writePage } from '../testing/support'
import { archiveSite, takeArchive } from './archives'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
let other: string
beforeAll(async () => {
  database = await freshDatabase()
  other = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!.id
  ids = await accountWithSite('Home\n  Visit\n    Tides & ferries\n  Terns\n  Sketch (trial page)')
  await writePage(ids.siteId, ids.accountId, 'Visit', '<p>Fähre um <b>neun</b> – İ</p>\n')
  await writePage(
    ids.siteId,
    ids.accountId,
    'Terns',
    '<p><a href="/visit/tides-and-ferries.html">x</a></p>\n',
  )
  const change = (make: Parameters<typeof changeSite>[3]) => changeSite(ids.siteId, ids.accountId, 0, make)
  const terns = (await mine()).pages.find((one) => one.label === 'Terns')!
  await change(async (client) => ({
    kind: 'setContent',
    pageId: terns.id,
    slot: 'beside',
    content: await putBlob(client, 'aside'),
    was: emptyHash,
  }))
  await change(() => ({
    kind: 'setPageText',
    pageId: terns.id,
    field: 'ownName',
    value: 'seabirds',
    was: null,
  }))
  await change(() => ({
    kind: 'setPageText',
    pageId: terns.id,
    field: 'title',
    value: 'Terns & others',
    was: null,
  }))
  await change(() => ({
    kind: 'setPageText',
    pageId: terns.id,
    field: 'language',
    value: 'Welsh',
    was: null,
  }))
  const { homeId } = await mine()
  await change(() => ({ kind: 'setTranslations', pairs: [{ pageId: terns.id, ofId: homeId }] }))
  // Paths of their own, for a page that is a folder's and for a file in another case.
  const first = await mine()
  const tides = first.pages.find(({ label }) => label === 'Tides & ferries')!
  await change(() => ({
    kind: 'setPageText',
    pageId: tides.id,
    field: 'ownName',
    value: '/sea/tides/',
    was: tides.ownName,
  }))
  const [file] = first.files
  await change(() => ({ kind: 'renameFile', fileId: file!.id, label: '/looks/Site.CSS', was: file!.label }))
  // A script longer than a page may be, with line ends of its own.
  const script = Buffer.from('show("x")\r\n'.repeat(500_000))
  await change(async (client) => {
    const hash = await putBlob(client, script)
    const [sizeBytes, id] = [script.length, randomUUID()]
    return { kind: 'addFile', id, fileKind: 'script', label: 'menu.js', hash, sizeBytes }
  })
  await change(() => ({ kind: 'putAside', findings: [{ key: 'a key', what: 'something' }], reason: 'known' }))
  await change(() => ({ kind: 'keepWords', words: ['noust'] }))
  const { id } = (await mine()).pages.find((one) => one.label === 'Visit')!
  await delivered(ids, { [id]: 'visiting.html' })
  const note = await writeNote(ids.siteId, { name: 'Orla', accountId: ids.accountId }, { pageId: id, place: { tag: 'p', nth: 0, quote: 'Fähre' }, text: 'When?' }) // prettier-ignore
  await settleNote(ids.siteId, note, { name: 'keeper', accountId: ids.accountId })
})
afterAll(() => database.close())

const mine = () => siteOf(ids.siteId, ids.accountId)
const archive = async (site: Site, withVersions = false) =>
  buffer(await archiveSite(site, { withVersions }, new AbortController().signal))
const take = (bytes: Buffer, who = other, request = randomUUID()) => takeArchive(who, [bytes], request)
const built = async (site: Site) => {
  const { manifest } = await filesOfSite(pool(), site)
  return manifest.map(({ path, hash }) => [path, hash])
}
async function entries(bytes: Buffer): Promise<Map<string, Buffer>> {
  const found = new Map<string, Buffer>()
  const limits = { packedBytes: 1e9, bytes: 1e9, files: 1e5 }
  for await (const { path, pieces } of unpack([bytes], limits)) found.set(path, await buffer(pieces()))
  return found
}
async function packed(files: ReadonlyMap<string, Buffer>): Promise<Buffer> {
  const zip = new ZipFile()
  for (const [path, bytes] of files) zip.addBuffer(bytes, path)
  zip.end()
  return buffer(zip.outputStream)
}
/** A manifest that a test writes something else into. */
interface Writable {
  version: number
  homeId: string
  nextSeq: number
  pages: {
    id: string
    parentId: string | null
    label: string
    ownName: string | null
    keptName: string | null
    templateId: string | null
    addresses: string[]
    texts: Record<string, string>
  }[]
  files: { kind: string }[]
}
/** The archive with something else in its manifest. */
async function withManifest(change: (said: Writable) => unknown): Promise<Buffer> {
  const files = await entries(await archive(await mine()))
  const said = JSON.parse(files.get('site.json')!.toString()) as Writable
  change(said)
  return packed(files.set('site.json', Buffer.from(JSON.stringify(said))))
}

describe('a whole site', () => {
  test('comes back in another account as it was, to the byte', async () => {
    const before = await mine()
    const bytes = await archive(before)
    const id = await take(bytes)
    const { site } = (await loadSite(pool(), id, other))!
    expect(checkSite(site)).toEqual([])
    expect({ ...site, id: '' }).toEqual({ ...before, id: '' })
    expect(await built(site)).toEqual(await built(before))
    expect((await archive(site)).equals(bytes)).toBe(true)
    const { pages } = site
    const visit = pages.find((one) => one.label === 'Visit')!
    expect(visit.addresses).toEqual(['visiting.html'])
    // What it knows of the world outlasts what deliveries of the new one say.
    await noteDelivered(id, other)
    expect((await siteOf(id, other)).pages.find((one) => one.id === visit.id)!.addresses).toEqual([
      'visiting.html',
    ])
    expect(await listNotes(id)).toMatchObject([
      { pageId: visit.id, author: 'Orla', text: 'When?', settled: { by: 'keeper' } },
    ])
    // It is the new owner's, and nobody else's.
    expect(await loadSite(pool(), id, ids.accountId)).toBeNull()
  })

  test('asked for again since the answer was lost, makes one site', async () => {
    const bytes = await archive(await mine())
    const request = randomUUID()
    const [one, two] = await Promise.all([take(bytes, other, request), take(bytes, other, request)])
    expect(two).toBe(one)
    // What it was made of may be gone by then.
    expect(await take(Buffer.from('cut'), other, request)).toBe(one)
    expect(await take(bytes)).not.toBe(one)
  })

  test('is readable without this program: its texts under the names they have in the site', async () => {
    const files = await entries(await archive(await mine()))
    expect(files.get('pages/content/visit/index.html')!.toString()).toBe('<p>Fähre um <b>neun</b> – İ</p>\n')
    expect(files.get('pages/beside/seabirds.html')!.toString()).toBe('aside')
    expect(files.get('plan.txt')!.toString()).toContain('Tides & ferries')
    expect([...files.keys()].filter((path) => path.startsWith('templates/'))).toHaveLength(1)
    expect(JSON.parse(files.get('site.json')!.toString())).toMatchObject({
      format: 'site archive',
      version: 1,
    })
  })

  test('brings its earlier versions where that is asked for', async () => {
    const site = await mine()
    const visit = site.pages.find((one) => one.label === 'Visit')!
    // Written at different times: what is written over within minutes is one sitting.
    await pool().query("UPDATE history SET made_at = made_at - interval '3 days' WHERE site_id = $1", [
      ids.siteId,
    ])
    await writePage(ids.siteId, ids.accountId, 'Visit', '<p>Later</p>\n')
    const id = await take(await archive(await mine(), true))
    const [version] = await versionsOf(id, 'content', visit.id)
    expect((await getTexts(pool(), [version!.hash])).get(version!.hash)).toBe(
      '<p>Fähre um <b>neun</b> – İ</p>\n',
    )
    // Nothing of it can be undone, and the next change goes on from there.
    const page = (await siteOf(id, other)).pages.find((one) => one.id === visit.id)!
    const saved = await changeSite(id, other, 0, () => ({
      kind: 'setPageText',
      pageId: page.id,
      field: 'label',
      value: 'Visiting',
      was: 'Visit',
    }))
    expect(saved.undo).toContain('Visit')
    expect(await versionsOf(await take(await archive(await mine())), 'content', visit.id)).toEqual([])
  })

  test('may have been packed anew, in a folder, with other line ends', async () => {
    const files = await entries(await archive(await mine()))
    const moved = new Map(
      [...files].map(([path, bytes]) => [
        `my site/${path}`,
        path.endsWith('.html') ? Buffer.from(bytes.toString().replaceAll('\n', '\r\n')) : bytes,
      ]),
    )
    const id = await take(await packed(moved))
    expect(await built(await siteOf(id, other))).toEqual(await built(await mine()))
  })

  test('with pictures comes back with them', async () => {
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    )
    const { accountId, siteId } = await accountWithSite('Home')
    const site = await siteOf(siteId, accountId)
    const sent = { id: randomUUID(), name: 'dot.png', replaces: null, keepsPlace: true }
    await takeFile(site, accountId, 0, sent, Readable.from([png]))
    const now = await siteOf(siteId, accountId)
    expect(now.files.map(({ kind }) => kind)).toContain('image')
    const id = await take(await archive(now))
    expect(await built(await siteOf(id, other))).toEqual(await built(now))
  })
})

describe('an archive from elsewhere', () => {
  const refused = async (bytes: Buffer, code = 'bad-archive') =>
    expect(take(bytes)).rejects.toMatchObject({ code })

  test('that is none, or not whole, is refused, and nothing is made', async () => {
    const count = async () =>
      (await pool().query<{ n: number }>('SELECT count(*)::int AS n FROM sites')).rows[0]!.n
    const before = await count()
    await refused(Buffer.from('no archive'), 'not-an-archive')
    await refused(await packed(new Map([['a.txt', Buffer.from('x')]])))
    await refused(await packed(new Map([['site.json', Buffer.from('{')]])))
    await refused(await withManifest((said) => (said.version = 2)))
    await refused(await withManifest((said) => (said.pages[1]!.parentId = said.pages[1]!.id)))
    await refused(await withManifest((said) => (said.pages[1]!.id = said.pages[0]!.id)))
    await refused(await withManifest((said) => (said.pages[1]!.templateId = randomUUID())))
    await refused(await withManifest((said) => (said.homeId = randomUUID())))
    await refused(await withManifest((said) => (said.nextSeq = 0)))
    await refused(await withManifest((said) => (said.pages[1]!.texts.content = 'gone.html')))
    await refused(await withManifest((said) => (said.pages[1]!.label = 'a\nb')))
    await refused(await withManifest((said) => (said.files[0]!.kind = 'image')))
    expect(await count()).toBe(before)
  })

  test('cannot name a file that stands outside the site', async () => {
    for (const name of [
      '../../etc/passwd',
      '/../etc/passwd',
      '/a/../../b',
      '/',
      '/a//b',
      '/.trial/a',
      '..',
      'a\\b',
      'a\nb',
      'a/b',
    ])
      for (const field of ['ownName', 'keptName'] as const) {
        const bytes = await withManifest(({ pages }) => (pages[3]![field] = name))
        const made = await take(bytes).catch((error: { code?: string }) => error.code)
        expect([name, field, made]).toEqual([name, field, 'bad-archive'])
      }
    await refused(await withManifest((said) => (said.pages[1]!.addresses = ['../x.html'])))
    await refused(await withManifest(({ pages }) => (pages[3]!.keptName = '/a')))
  })

  test('of which any byte was changed ends in an answer, and any site made of it is whole', async () => {
    const bytes = await archive(await mine())
    let taken = 0
    for (let nth = 0; nth < 60; nth++) {
      const mutated = Buffer.from(bytes)
      const at = Math.floor((nth / 60) * bytes.length)
      mutated[at] = mutated[at]! ^ (1 << (nth % 8))
      const made = await take(mutated).catch((error: { code?: string }) => {
        expect(error.code).toEqual(expect.any(String))
        return null
      })
      if (made === null) continue
      taken += 1
      const site = await siteOf(made, other)
      expect(checkSite(site)).toEqual([])
      expect(namesOf(site).pages.size).toBeGreaterThan(0)
    }
    expect(taken).toBeLessThan(60)
  })
})
