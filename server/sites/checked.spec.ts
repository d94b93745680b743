import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { config } from '../platform/config'
import { outsideServer } from '../testing/outside'
import { accountWithSite, freshDatabase, siteOf } from '../testing/support'
import { putBlob } from '../contents/blobs'
import { changeSite } from './changes/changes'
import { endLookers, lookAtPages, lookingLimits, looksOf } from './built/built'
import { findingsOf } from './findings'
import { follow } from './outside/follow'
import { followOutside, outsideOf } from './outside/outside'
import { graphOfSite, weightsOfSite } from './picture-of-site'

let database: Awaited<ReturnType<typeof freshDatabase>>
let accountId: string
let siteId: string
let outside: Awaited<ReturnType<typeof outsideServer>>
let base: string
/** What the server outside was asked, in order. */
const asked: string[] = []
let open = 0
let mostOpen = 0

beforeAll(async () => {
  database = await freshDatabase()
  ;({ accountId, siteId } = await accountWithSite('Home\n  Visit\n  Birds'))
  outside = await outsideServer((request, response) => {
    asked.push(`${request.method} ${request.url}`)
    mostOpen = Math.max(mostOpen, ++open)
    response.on('close', () => (open -= 1))
    const to = (status: number, location: string) => response.writeHead(status, { location }).end()
    switch (request.url) {
      case '/fine': return response.end('x')
      case '/no-head': return response.writeHead(request.method === 'HEAD' ? 405 : 200).end()
      case '/moved': return to(301, '/further')
      case '/further': return to(308, '/fine')
      case '/for-now': return to(302, '/fine')
      case '/private': return response.writeHead(403).end()
      case '/broken': return response.writeHead(500).end()
      case '/round': return to(301, '/round')
      case '/inside': return to(301, 'file:///etc/passwd')
      case '/endless': return void response.writeHead(200).write('x'.repeat(1_000))
      case '/silent': return undefined
      default: return response.writeHead(404).end()
    }
  }) // prettier-ignore
  ;({ base } = outside)
})
afterAll(async () => {
  await endLookers()
  outside.close()
  await database.close()
})

const never = new AbortController().signal
const write = async (label: string, html: string) => {
  const site = await siteOf(siteId, accountId)
  const page = site.pages.find((one) => one.label === label)!
  await changeSite(siteId, accountId, 0, async (client) => ({
    kind: 'setContent',
    pageId: page.id,
    content: await putBlob(client, html),
    was: page.content,
  }))
  return siteOf(siteId, accountId)
}

describe('addresses outside', () => {
  test.each([
    ['/fine', { outcome: 'fine', status: 200, movedTo: null }],
    ['/no-head', { outcome: 'fine', status: 200, movedTo: null }],
    ['/moved', { outcome: 'moved', status: 200, movedTo: '/fine' }],
    ['/for-now', { outcome: 'fine', status: 200, movedTo: null }],
    ['/private', { outcome: 'unsure', status: 403, movedTo: null }],
    ['/broken', { outcome: 'silent', status: 500, movedTo: null }],
    ['/round', { outcome: 'silent', status: 301, movedTo: null }],
    ['/inside', { outcome: 'silent', status: 301, movedTo: null }],
    ['/endless', { outcome: 'fine', status: 200, movedTo: null }],
    ['/nothing', { outcome: 'gone', status: 404, movedTo: null }],
  ])('%s', async (path, expected) => {
    const followed = await follow(base + path, never)
    expect(followed).toEqual({ ...expected, movedTo: expected.movedTo && base + expected.movedTo })
  })

  test('one that does not answer is not waited for once it is cancelled, and one nobody listens at is told', async () => {
    const before = asked.length
    expect(await follow(`${base}/silent`, AbortSignal.timeout(200))).toMatchObject({ outcome: 'silent', status: null })
    // Not even by GET, which is what follows a HEAD that is waited for in vain.
    expect(asked.slice(before)).toEqual(['HEAD /silent'])
    expect(await follow('http://127.0.0.1:1/', never)).toMatchObject({ outcome: 'silent', status: null })
  }) // prettier-ignore

  test('are never those of a network of the server’s own, unless who runs it allows it', async () => {
    const before = asked.length
    const rules = config().outgoing as { privateRanges: boolean }
    rules.privateRanges = false
    try {
      expect(await follow(`${base}/fine`, never)).toMatchObject({ outcome: 'silent', status: null })
    } finally {
      rules.privateRanges = true
    }
    expect(asked.length).toBe(before)
  })

  test('are followed once each and one at a time at a server, stored, and found where they stand', async () => {
    const links = ['/fine', '/moved', '/gone', '/private', '/fine#again'].map((path) => `<a href="${base}${path}">x</a>`)
    const site = await write('Visit', links.join('\n'))
    expect(await outsideOf(site)).toMatchObject({ addressCount: 4, followedCount: 0, followedAt: null })
    asked.length = 0
    mostOpen = 0
    const told: string[] = []
    await followOutside(site, accountId, never, (done, all) => told.push(`${done}/${all}`))
    expect([told[0], told.at(-1), mostOpen]).toEqual(['0/4', '4/4', 1])
    expect(asked.filter((one) => one === 'HEAD /fine')).toHaveLength(2)
    expect(await outsideOf(site)).toMatchObject({ followedCount: 4, unsure: [{ address: `${base}/private` }] })
    const rules = (await findingsOf(site, never)).findings.map(({ rule }) => rule)
    expect(rules.filter((rule) => rule.startsWith('outside-'))).toEqual(['outside-gone', 'outside-moved'])
    // What the site no longer leads to is forgotten with the next round.
    const next = await write('Visit', `<a href="${base}/fine">x</a>`)
    const cancelled = AbortSignal.abort()
    await followOutside(next, accountId, cancelled, () => {})
    expect(await outsideOf(next)).toMatchObject({ addressCount: 1, followedCount: 1 })
  }) // prettier-ignore
})

describe('finished pages', () => {
  test('are looked at once as they are, and only those that changed again', async () => {
    const site = await write('Birds', '<ul><p>Not in a list</p></ul><div role="checkbox">x</div>')
    expect(await looksOf(site, never)).toMatchObject({ pageCount: 3, unlookedCount: 3, findings: [] })
    let all = 0
    await lookAtPages(site, never, (_, of) => (all = of))
    expect(all).toBe(3)
    const { findings, unlookedCount } = await looksOf(site, never)
    expect(unlookedCount).toBe(0)
    const birds = site.pages.find(({ label }) => label === 'Birds')!.id
    const own = findings.filter(({ place }) => place.id === birds)
    expect(own.map(({ rule }) => rule)).toEqual(expect.arrayContaining(['built-markup', 'built-accessibility-grave']))
    expect(own.find(({ rule }) => rule === 'built-markup')!.place.piece).toBe('<p>')
    const next = await write('Birds', '<p>Mended.</p>')
    expect((await looksOf(next, never)).unlookedCount).toBe(1)
    await lookAtPages(next, never, (_, of) => (all = of))
    expect(all).toBe(1)
    expect((await looksOf(next, never)).findings.filter(({ place }) => place.id === birds)).toEqual([])
  }) // prettier-ignore

  test('are judged by their colours again when a style sheet changes, and only by those', async () => {
    const site = await write('Birds', '<p class="quiet">Terns</p>')
    await lookAtPages(site, never, () => {})
    const sheet = site.files.find(({ kind }) => kind === 'style')!
    const css = `.quiet { color: #999 }\n/* ${'-'.repeat(1_000)} */\n`
    await changeSite(siteId, accountId, 0, async (client) => ({
      kind: 'setFile', fileId: sheet.id, hash: await putBlob(client, css), sizeBytes: css.length, was: sheet.hash,
    }))
    const next = await siteOf(siteId, accountId)
    expect(await looksOf(next, never)).toMatchObject({ unlookedCount: 3 })
    await lookAtPages(next, never, () => {})
    const { findings, unlookedCount } = await looksOf(next, never)
    const told = findings.filter(({ rule }) => rule === 'built-colours')
    expect([unlookedCount, told.length]).toEqual([0, 1])
    expect(told[0]).toMatchObject({
      place: { kind: 'file', id: sheet.id, line: 1, column: 17 },
      what: expect.stringMatching(/^“Terns” is #999999 on #ffffff: .* Seen on “Birds”\.$/),
      mends: [{ edits: [{ start: 16, end: 20, text: '#767676' }], was: next.files.find(({ id }) => id === sheet.id)!.hash }],
    })
  }) // prettier-ignore

  test('that are hostile end in an answer, and run nothing', async () => {
    const deep = '<div>'.repeat(3_000)
    const site = await write('Birds', `<script>document.title = "ran"; for (;;) {}</script>${deep}x`)
    lookingLimits.deadlineMs = 4_000
    await lookAtPages(site, never, () => {})
    expect((await looksOf(site, never)).unlookedCount).toBe(0)
  })
})

test('how pages lead to one another and what they weigh, from the database', async () => {
  const site = await write('Visit', '<a href="/birds.html">x</a>')
  const { nodes } = await graphOfSite(site, never)
  const place = (label: string) => nodes.findIndex(({ id }) => id === site.pages.find((one) => one.label === label)!.id)
  expect(nodes[place('Visit')]!.to).toEqual([place('Birds')])
  const weights = await weightsOfSite(site, never)
  expect(weights).toHaveLength(3)
  expect(weights.every(({ bytes }) => bytes.source > 500 && bytes.styles > 1_000)).toBe(true)
}) // prettier-ignore
