import { randomBytes, randomUUID } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { planSite, readOutline } from '#core/plan'
import { defaultScheme } from '#core/site'
import { choicesOf } from '#core/style'
import { getTexts, hashOf, PostgresContents } from '#server/contents'
import { pool } from '#server/platform'
import { createSite, filesOfSite } from '#server/sites'
import { accountWithSite, freshDatabase, siteOf } from '../testing/support'
import { zipped } from '../testing/zipped'
import { contentsOf, findKit, forgetKit, keepKit, kitToUse, listKits, takeKit, zipKit } from './kits'
import { lookOf } from './look'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
  ids = await accountWithSite('Home\n  Visit')
})
afterAll(() => database.close())

const plan = planSite(readOutline('Home\n  Visit\n    Getting here'), 'Saltpan Chapel')
const make = async (kitId: string, scheme?: typeof defaultScheme, language = 'en') => {
  const kit = (await kitToUse(ids.accountId, kitId))!
  const siteId = await createSite(ids.accountId, { name: 'Next', language, plan, kit, scheme })
  return siteOf(siteId, ids.accountId)
}

describe('a kit that ships', () => {
  test('has a picture, a style sheet whose choices can be changed, and makes a site that is whole', async () => {
    const offered = await listKits(ids.accountId)
    expect(offered.map(({ id }) => id).toSorted()).toEqual((await readdir('kits')).toSorted())
    for (const { id, kit } of offered) {
      expect([id, kit.picture !== null, kit.about.length > 20]).toEqual([id, true, true])
      const style = await readFile(path.join('kits', id, 'files/styles/site.css'), 'utf8')
      expect([id, choicesOf(style)]).not.toEqual([id, null])
      const site = await make(id)
      const { manifest, bytesOf } = await filesOfSite(pool(), site)
      const paths = manifest.map((file) => file.path)
      const home = (await bytesOf(['index.html'])).get('index.html')!.toString()
      for (const [, href] of home.matchAll(/<link rel="stylesheet" href="([^"]+)"/g))
        expect(paths).toContain(href)
    }
  })

  test('speaks the language of the site that is made of it', async () => {
    const site = await make('notice-board', undefined, 'ar')
    const home = (await (await filesOfSite(pool(), site)).bytesOf(['index.html'])).get('index.html')!.toString()
    expect(home).toMatch(/<html lang="ar" dir="rtl">/)
    expect(home).toMatch(/<link rel="stylesheet" href="styles\/site\.css">/)
    expect(home).not.toMatch(/Skip to|Main|Notices/)
  })

  test('is seen as a page that needs nothing from anywhere', async () => {
    const offered = (await findKit(ids.accountId, 'notice-board'))!
    const html = lookOf(offered.kit, await contentsOf(offered), 2031)
    expect(html).toMatch(/<link rel="stylesheet" href="data:text\/css;base64,/)
    expect(html).not.toMatch(/href="[^"#]*\.css"/)
    expect(html).toContain('On Sundays')
  })
})

describe('a kit that an account keeps', () => {
  test('is a site’s templates and styles; taken out and in again it is the same to the byte', async () => {
    const id = await keepKit(await siteOf(ids.siteId, ids.accountId), ids.accountId, { name: 'Ours', about: 'x' })
    const zip = await zipKit((await findKit(ids.accountId, id))!)
    const other = await accountWithSite('Home')
    const again = await takeKit(other.accountId, zip as unknown as AsyncIterable<Uint8Array>)
    const { kit } = (await findKit(ids.accountId, id))!
    expect((await findKit(other.accountId, again))!.kit).toEqual(kit)
    // Nobody else's, and gone when it is forgotten.
    expect(await findKit(ids.accountId, again)).toBeNull()
    await forgetKit(ids.accountId, again)
    expect(await findKit(other.accountId, again)).not.toBeNull()
    await forgetKit(other.accountId, again)
    expect(await findKit(other.accountId, again)).toBeNull()
  }) // prettier-ignore

  test('gives way to one of its name, and holds its contents while it is kept', async () => {
    const site = await siteOf(ids.siteId, ids.accountId)
    const style = site.files[0]!.hash
    const first = await keepKit(site, ids.accountId, { name: 'Twice', about: '' })
    const second = await keepKit(site, ids.accountId, { name: 'Twice', about: 'new' })
    expect(await findKit(ids.accountId, first)).toBeNull()
    expect((await findKit(ids.accountId, second))!.kit.about).toBe('new')
    await pool().query('DELETE FROM sites WHERE account_id = $1', [ids.accountId])
    expect(await new PostgresContents(pool()).isNamed(style)).toBe(true)
  })

  test('under another scheme has its templates lead to where the files are then', async () => {
    const scheme = { ...defaultScheme, folders: { ...defaultScheme.folders, style: 'css' } }
    const site = await make('handbook', scheme)
    const source = site.templates[0]!.source
    const text = (await getTexts(pool(), [source])).get(source)!
    expect(text).toContain('href="/css/layout.css"')
    expect(text).not.toContain('/styles/')
    const { manifest } = await filesOfSite(pool(), site)
    expect(manifest.map((file) => file.path)).toContain('css/layout.css')
  })

  test('has its scripts and drawings lead there as well', async () => {
    const files = {
      'templates/page.html': '<script src="/scripts/show.js"></script><slot name="content"></slot>',
      'files/scripts/show.js': `import './tide.js'\nshow('/images/map.svg')`,
      'files/scripts/tide.js': 'export {}',
      'files/images/map.svg': '<svg><image href="sea.svg"/></svg>',
      'files/images/sea.svg': '<svg></svg>',
    }
    const kit = {
      format: 'site kit', version: 1, name: 'Shown', about: '', scheme: defaultScheme, titlePattern: '{page}', homeTitlePattern: '', output: { indent: 'as-written', lineEnd: 'lf', comments: false },
      template: 'Page', templates: [{ name: 'Page', file: 'templates/page.html', basedOn: null }], picture: null,
      files: ['scripts/show.js', 'scripts/tide.js', 'images/map.svg', 'images/sea.svg'],
    } // prettier-ignore
    const kept = await takeKit(ids.accountId, await zipped({ ...files, 'kit.json': JSON.stringify(kit) }))
    const site = await make(kept, { ...defaultScheme, folders: { ...defaultScheme.folders, image: 'seen' } })
    const { manifest, bytesOf } = await filesOfSite(pool(), site)
    expect(manifest.map((file) => file.path)).toContain('seen/map.svg')
    const told = await bytesOf(['scripts/show.js', 'seen/map.svg'])
    expect(told.get('scripts/show.js')!.toString()).toBe(`import './tide.js'\nshow('/seen/map.svg')`)
    expect(told.get('seen/map.svg')!.toString()).toBe('<svg><image href="sea.svg"/></svg>')
  })
})

describe('what is no kit is refused with its reason, and nothing is kept of it', () => {
  const manifest = {
    format: 'site kit',
    version: 1,
    name: 'Mine',
    about: '',
    scheme: defaultScheme,
    titlePattern: '{page}',
    homeTitlePattern: '',
    output: { indent: 'as-written', lineEnd: 'lf', comments: false },
    template: 'Page',
    templates: [{ name: 'Page', file: 'templates/page.html', basedOn: null }],
    files: ['styles/site.css'],
    picture: null,
  }
  const good = { 'templates/page.html': '<slot name="content"></slot>', 'files/styles/site.css': 'p{}' }
  const png = Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), randomBytes(30)])
  const cases: [string, Record<string, string | Buffer>, string][] = [
    ['no manifest', good, 'There is no kit.json'],
    ['no JSON', { ...good, 'kit.json': '{' }, 'no JSON'],
    ['another version', { ...good, 'kit.json': JSON.stringify({ ...manifest, version: 2 }) }, 'version'],
    ['a file that is missing', { 'kit.json': JSON.stringify(manifest), 'files/styles/site.css': '' }, 'templates/page.html'],
    ['a path that leads out', { ...good, 'kit.json': JSON.stringify({ ...manifest, files: ['../../etc/passwd'] }) }, 'There is no'],
    ['a file that is another', { ...good, 'files/styles/site.css': png, 'kit.json': JSON.stringify(manifest) }, 'not what it is called'],
    ['a picture that is none', { ...good, 'p.svg': '<svg/>', 'kit.json': JSON.stringify({ ...manifest, picture: 'p.svg' }) }, 'no PNG'],
    ['a template without end', { ...good, 'templates/page.html': '<b>'.repeat(20_000), 'kit.json': JSON.stringify(manifest) }, 'at most'],
  ] // prettier-ignore
  test.each(cases)('%s', async (_, files, why) => {
    const before = (await listKits(ids.accountId)).length
    await expect(takeKit(ids.accountId, await zipped(files))).rejects.toThrow(why)
    expect(await listKits(ids.accountId)).toHaveLength(before)
  })

  test('what is no ZIP, or unpacks to more than it may', async () => {
    await expect(takeKit(ids.accountId, [randomBytes(4_000)])).rejects.toMatchObject({ code: 'not-an-archive' })
    const bomb = await zipped({ 'kit.json': Buffer.alloc(30_000_000) })
    expect(Buffer.concat(bomb).length).toBeLessThan(100_000)
    await expect(takeKit(ids.accountId, bomb)).rejects.toMatchObject({ code: 'archive-too-large' })
    const whole = Buffer.concat(await zipped({ ...good, 'kit.json': JSON.stringify(manifest) }))
    // One byte of a file is another: its checksum (CRC-32) says so.
    const at = whole.indexOf('kit.json') + 'kit.json'.length + 20
    whole[at] = whole[at]! ^ 1
    await expect(takeKit(ids.accountId, [whole])).rejects.toMatchObject({ code: 'not-an-archive' })
  })

  test('one that stands in a folder of the archive is taken', async () => {
    const files = { ...good, 'kit.json': JSON.stringify({ ...manifest, name: `In ${randomUUID()}` }) }
    const inFolder = Object.fromEntries(Object.entries(files).map(([name, text]) => [`my kit/${name}`, text]))
    const id = await takeKit(ids.accountId, await zipped(inFolder))
    expect((await findKit(ids.accountId, id))!.kit.files[0]!.hash).toBe(hashOf('p{}'))
  })
})
