import { randomBytes, randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { beginSession, endSession } from '../accounts/accounts'
import { type DefaultTreeAdapterTypes, parse } from 'parse5'
import { putBlob } from '../contents/blobs'
import { pool } from '../platform/pool'
import { previewBase, servePreview } from './preview'
import { filesOfSite } from '../sites/build'
import { changeSite } from '../sites/changes/changes'
import { takeFile } from '../sites/files'
import { zipSite } from '../sites/zip'
import { accountWithSite, delivered, freshDatabase, siteOf, writePage } from '../testing/support'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
let cookie: string
let token: string
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit\n    Tides & ferries\n  Contact\n  Sketch (trial page)')
  cookie = (await beginSession({ id: ids.accountId })).get('set-cookie')!.split(';')[0]!
  token = previewBase(new Request('http://x/', { headers: { cookie } }), ids.siteId).split('/')[2]!
})

const ask = (path: string, headers: Record<string, string> = {}) =>
  servePreview(new Request('http://x/', { headers }), token, path).catch((answer: Response) => answer)
const statusOf = async (path: string, headers?: Record<string, string>) => (await ask(path, headers)).status

describe('the preview answers as a host does', () => {
  test('a folder stands for its home file, case counts, and what is not there is 404', async () => {
    expect(await statusOf('')).toBe(200)
    expect(await statusOf('visit/')).toBe(200)
    expect((await ask('visit')).headers.get('location')).toBe(`/preview/${token}/visit/`)
    expect(await statusOf('visit/tides-and-ferries.html')).toBe(200)
    expect(await statusOf('Visit/')).toBe(404)
    expect(await statusOf('visit/tides.html')).toBe(404)
    expect(await statusOf('%')).toBe(400)
    expect(await statusOf('../../etc/passwd')).toBe(404)
    expect((await ask('styles/site.css')).headers.get('content-type')).toBe('text/css; charset=utf-8')
  })

  test('a film is given from where it is asked for, and a page whole', async () => {
    const bytes = randomBytes(1_500_000)
    const sent = { id: randomUUID(), name: 'The pier.mp4', replaces: null, keepsPlace: false }
    await takeFile(await siteOf(ids.siteId, ids.accountId), ids.accountId, 0, sent, Readable.from([bytes]))
    const part = async (range: string, headers = {}) => {
      const answer = await ask('files/the-pier.mp4', { range, ...headers })
      const told = ['content-range', 'content-length', 'accept-ranges'].map((name) =>
        answer.headers.get(name),
      )
      return { status: answer.status, told, bytes: Buffer.from(await answer.arrayBuffer()) }
    }
    const some = await part('bytes=999990-1000009')
    expect([some.status, ...some.told]).toEqual([206, 'bytes 999990-1000009/1500000', '20', 'bytes'])
    expect(some.bytes.equals(bytes.subarray(999_990, 1_000_010))).toBe(true)
    expect((await part('bytes=1400000-')).bytes.equals(bytes.subarray(1_400_000))).toBe(true)
    expect((await part('bytes=1500000-')).told[0]).toBe('bytes */1500000')
    for (const whole of [await part('bytes=0-1,3-4'), await part('bytes=0-1', { 'if-range': '"x"' })]) {
      expect([whole.status, whole.told[1]]).toEqual([200, '1500000'])
      expect(whole.bytes.equals(bytes)).toBe(true)
    }
    expect(await statusOf('visit/', { range: 'bytes=0-1' })).toBe(200)
  })

  test('a trial page can be looked at here, and only here', async () => {
    expect(await (await ask('.trial/sketch.html')).text()).toContain('<h1>Sketch</h1>')
    const { manifest } = await filesOfSite(pool(), await siteOf(ids.siteId, ids.accountId))
    expect(manifest.map((file) => file.path)).not.toContain('.trial/sketch.html')
  })

  test('an old address leads on', async () => {
    const site = await siteOf(ids.siteId, ids.accountId)
    const contact = site.pages.find((page) => page.label === 'Contact')!
    await delivered(ids, { [contact.id]: 'kontakt.html' })
    expect((await ask('kontakt.html')).headers.get('location')).toBe(`/preview/${token}/contact.html`)
  })

  test('author content is sandboxed, without an origin, and sends nothing anywhere', async () => {
    for (const path of ['', 'styles/site.css', 'nothing.html']) {
      const policy = (await ask(path)).headers.get('content-security-policy')!
      expect(policy).toMatch(/^sandbox allow-scripts allow-forms;/)
      expect(policy).not.toContain('allow-same-origin')
      expect(policy).toContain("connect-src 'none'")
      expect(policy).toContain("frame-ancestors 'self'")
    }
    // A page within a page of the site, which is without an origin, and where the frame itself goes on to: the address lets it in.
    const within = await ask('', { 'sec-fetch-dest': 'iframe', 'sec-fetch-site': 'cross-site' })
    expect(within.headers.get('content-security-policy')).not.toContain('frame-ancestors')
    expect(await within.text()).toContain('rubricantPreview')
  })
})

describe('who may see a preview', () => {
  test('whoever has the address, within the frame; alone only the one it was made for', async () => {
    expect(await statusOf('')).toBe(200)
    expect(await statusOf('', { 'sec-fetch-dest': 'document' })).toBe(404)
    expect(await statusOf('', { 'sec-fetch-dest': 'document', cookie })).toBe(200)
    const other = await beginSession({ id: (await accountWithSite('Home')).accountId })
    expect(await statusOf('', { cookie: other.get('set-cookie')!.split(';')[0]! })).toBe(404)
  })

  test('an address made up, changed, or of an ended session opens nothing', async () => {
    const [siteId, name, until, signature] = token.split('.')
    const { siteId: another } = await accountWithSite('Home')
    for (const forged of [
      'x',
      `${siteId}.${name}.${until}`,
      `${another}.${name}.${until}.${signature}`,
      `${siteId}.${name}.${until}.${signature}x`,
      `${siteId}.${name}.${Number(until) + 60}.${signature}`,
    ])
      expect(
        (await servePreview(new Request('http://x/'), forged, '').catch((answer: Response) => answer)).status,
      ).toBe(404)
    await endSession(new Request('http://x/', { headers: { cookie } }))
    expect(await statusOf('')).toBe(404)
  })
})

test('an address opens nothing once it has run out, and tells its window so', async () => {
  const request = new Request('http://x/', { headers: { cookie } })
  const old = previewBase(request, ids.siteId, Date.now() - 11 * 60_000).split('/')[2]!
  const answer = await servePreview(new Request('http://x/'), old, 'contact.html')
  expect(answer.status).toBe(410)
  expect(await answer.text()).toContain('expired: "contact.html"')
})

test.each([
  ['<!DOCTYPE html>\n<html lang="{language}">', 1],
  ['\ufeff<!-- a > b -->\n<?xml version="1.0"?> <!doctype html PUBLIC "x"><html lang="{language}">', 2],
  ['<html lang="{language}"><!-- <!DOCTYPE html> -->', 0],
  ['<!-- <!DOCTYPE html>', 0],
])('the script goes behind the doctype, whatever is being typed behind it: %s', async (begin, before) => {
  const { siteId, accountId } = ids
  const { templates } = await siteOf(siteId, accountId)
  const source = `${begin}<head><title>{title}</title></head><body><slot name="content"></slot></bod`
  const [template] = templates
  await changeSite(siteId, accountId, 0, async (client) => ({
    kind: 'setTemplate', templateId: template!.id, was: template!.source, source: await putBlob(client, source),
  })) // prettier-ignore
  const html = await (await ask('contact.html')).text()
  const at = html.indexOf('<script>')
  expect(html.slice(0, at).match(/<!doctype html|<\?xml/gi) ?? []).toHaveLength(before)
  expect(
    html
      .slice(at)
      .match(/^<script>[^]*<\/script>/)![0]
      .match(/<html|<head>/),
  ).toBe(null)
  const parsed = parse(html)
  const root = parsed.childNodes.find((node) => node.nodeName === 'html') as DefaultTreeAdapterTypes.Element
  expect(root.attrs).toEqual(before === 0 && begin.startsWith('<!--') ? [] : [{ name: 'lang', value: 'en' }])
  expect((root.childNodes[0] as DefaultTreeAdapterTypes.Element).childNodes[0]!.nodeName).toBe('script')
  expect(parsed.mode).toBe(before > 0 ? 'no-quirks' : 'quirks')
})

test('a ZIP of one site is the same to the byte, another day too', async () => {
  await writePage(ids.siteId, ids.accountId, 'Contact', '<p>ü</p>')
  const zip = async () =>
    Buffer.from(
      await new Response(
        zipSite(await filesOfSite(pool(), await siteOf(ids.siteId, ids.accountId))),
      ).arrayBuffer(),
    )
  const first = await zip()
  expect(first.subarray(0, 2).toString()).toBe('PK')
  expect((await zip()).equals(first)).toBe(true)
  const { pages } = await siteOf(ids.siteId, ids.accountId)
  await changeSite(ids.siteId, ids.accountId, 0, () => ({
    kind: 'setPageText',
    pageId: pages[1]!.id,
    field: 'title',
    value: 'Other',
    was: null,
  }))
  expect((await zip()).equals(first)).toBe(false)
})
