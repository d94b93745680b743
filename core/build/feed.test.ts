import { describe, expect, test } from '@jest/globals'
import { SaxesParser, type SaxesTagNS } from 'saxes'
import { diffSites, applyDiff, reverseDiff, type Site } from '#core/site'
import { buildAll, change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { mostInFeed } from './feed'
import { buildSite } from './index'

const plan = `Home
  News
    Gale warning, 3 March 2031
    The pier is mended, 14 June 2030
    Undated
  Birds
    Method`
const address = 'https://skerry.example/light/'

/** A site with a dated section that makes a feed, and a template that names it. */
function withFeed(store: TextStore, outline = plan, sections = ['News']): Site {
  let site = siteFrom(outline, store, 'Skerry & Light')
  const pageIds = sections.map((label) => pageCalled(site, label).id)
  site = change(site, store, { kind: 'setPageFlag', pageIds, flag: 'dated', value: true })
  site = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: address, was: '' })
  const { id: templateId, source: was } = site.templates[0]!
  const source = store.put('<head><link rel="alternate" type="application/atom+xml" href="{feed}"></head>\n<slot name="content"></slot>\n') // prettier-ignore
  site = change(site, store, { kind: 'setTemplate', templateId, source, was })
  return change(site, store, { kind: 'setOutput', output: { ...site.output, feed: true }, was: site.output })
}

/** What a feed says, read as XML: one that is not well formed ends the test. */
function read(xml: string) {
  const found: { path: string; text: string; attributes: Record<string, string> }[] = []
  const open: { path: string; text: string; attributes: Record<string, string> }[] = []
  const parser = new SaxesParser({ xmlns: true })
  parser.on('error', (error) => {
    throw error
  })
  parser.on('opentag', ({ name, uri, attributes }: SaxesTagNS) => {
    expect(uri).toBe('http://www.w3.org/2005/Atom')
    const values = Object.fromEntries(Object.entries(attributes).map(([key, { value }]) => [key, value]))
    const one = { path: [...open.slice(-1).map(({ path }) => path), name].join('/'), text: '', attributes: values } // prettier-ignore
    open.push(one)
    found.push(one)
  })
  parser.on('text', (text) => void (open.at(-1) && (open.at(-1)!.text += text)))
  parser.on('closetag', () => void open.pop())
  parser.write(xml).close()
  return {
    all: (path: string) => found.filter((one) => one.path === `feed/${path}`),
    texts: (path: string) => found.filter((one) => one.path === `feed/${path}`).map(({ text }) => text),
  }
}

const feedOf = (site: Site, store: TextStore, path = 'feed.xml') => read(buildAll(site, store).get(path)!)

describe('the feed', () => {
  test('says what RFC 4287 asks for: the newest pages that carry a date, and who they are from', () => {
    const store = new TextStore()
    let site = withFeed(store)
    const { id: pageId } = pageCalled(site, 'Gale warning, 3 March 2031')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'description', value: 'Stay <ashore> & dry', was: null }) // prettier-ignore
    const feed = feedOf(site, store)
    expect(feed.texts('id')).toEqual([`${address}feed.xml`])
    expect(feed.texts('title')).toEqual(['Skerry & Light'])
    expect(feed.texts('updated')).toEqual(['2031-03-03T00:00:00Z'])
    expect(feed.texts('author/name')).toEqual(['Skerry & Light'])
    expect(feed.all('link').map(({ attributes }) => attributes.href)).toEqual([`${address}feed.xml`, address])
    expect(feed.texts('entry/title')).toEqual(['Gale warning, 3 March 2031', 'The pier is mended, 14 June 2030']) // prettier-ignore
    expect(feed.texts('entry/updated')).toEqual(['2031-03-03T00:00:00Z', '2030-06-14T00:00:00Z'])
    expect(feed.texts('entry/summary')).toEqual(['Stay <ashore> & dry'])
    expect(feed.all('entry/link')[0]!.attributes.href).toBe(`${address}news/2031-03-03-gale-warning.html`)
    expect(new Set(feed.texts('entry/id')).size).toBe(2)
  })

  test('holds what pages say, with references that are understood from where each stands', () => {
    const store = new TextStore()
    const html = '<p>See <a href="/birds/method.html">how</a> &amp; <a href="#when">when</a>.</p>'
    const site = write(withFeed(store), store, 'Gale warning, 3 March 2031', html)
    const [content, ...others] = feedOf(site, store).all('entry/content')
    expect(others).toEqual([])
    expect(content!.attributes).toEqual({ type: 'html', 'xml:base': `${address}news/2031-03-03-gale-warning.html` }) // prettier-ignore
    expect(content!.text).toBe('<p>See <a href="../birds/method.html">how</a> &amp; <a href="#when">when</a>.</p>') // prettier-ignore
    expect(new URL('../birds/method.html', content!.attributes['xml:base']).href).toBe(`${address}birds/method.html`) // prettier-ignore
  })

  test('an entry is known by the same name wherever its page goes, and a year and a month are their first moment', () => {
    const store = new TextStore()
    let site = withFeed(store)
    const id = '0190a3c4-5f60-7aaa-8bbb-123456789abc'
    site = {
      ...site,
      pages: site.pages.map((page) => (page.label.startsWith('Gale') ? { ...page, id } : page)),
    }
    const before = feedOf(site, store).texts('entry/id')[0]
    expect(before).toBe(`urn:uuid:${id}`)
    site = change(site, store, { kind: 'setPageText', pageId: id, field: 'label', value: 'Storm, June 2031', was: 'Gale warning, 3 March 2031' }) // prettier-ignore
    expect(feedOf(site, store).texts('entry/id')[0]).toBe(before)
    expect(feedOf(site, store).texts('entry/updated')[0]).toBe('2031-06-01T00:00:00Z')
    site = change(site, store, { kind: 'setPageText', pageId: id, field: 'date', value: '2032', was: null })
    expect(feedOf(site, store).texts('entry/updated')[0]).toBe('2032-01-01T00:00:00Z')
  })

  test('is well-formed XML whatever pages say, and goes no further than readers need', () => {
    const store = new TextStore()
    const notices = Array.from({ length: mostInFeed + 5 }, (_, at) => `    Notice ${at}, 3 March 2031\n`)
    let site = withFeed(store, `Home\n  News\n${notices.join('')}`)
    const hostile = ']]>&#0;\u0000\u000b\ufffe<p title="&quot;\'">&nbsp;\ud800</p>\ud83d\ude00\u0085'
    site = write(site, store, 'Notice 0, 3 March 2031', hostile)
    const { id: pageId } = pageCalled(site, 'Notice 0, 3 March 2031')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'title', value: '"]]>&\'<', was: null })
    site = write(site, store, 'Notice 1, 3 March 2031', `<p>${'x'.repeat(499_900)}</p>`)
    site = write(site, store, 'Notice 2, 3 March 2031', `<p>${'y'.repeat(1_000)}</p>`)
    site = write(site, store, 'Notice 3, 3 March 2031', '<p>z</p>')
    const feed = feedOf(site, store)
    expect(feed.texts('entry/title')).toHaveLength(mostInFeed)
    expect(feed.texts('entry/title')[0]).toBe('"]]>&\'<')
    const said = feed.texts('entry/content')
    // The third would go beyond what a feed holds; the fourth fits again.
    expect(said.map((text) => text.length)).toEqual([said[0]!.length, 499_907, 8])
    expect(said[0]).toBe(']]>&#0;<p title="&quot;\'">&nbsp;</p>😀\u0085')
  })

  test('there is one for each language, which pages of that name; none of a page that menus leave out', () => {
    const store = new TextStore()
    let site = withFeed(store, `${plan}\n  Neues\n    Sturm, 4. März 2031`, ['News', 'Neues'])
    const { id: pageId } = pageCalled(site, 'Neues')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'language', value: 'de-AT', was: null })
    const files = buildAll(site, store)
    expect(read(files.get('feed-de-at.xml')!).texts('entry/updated')).toEqual(['2031-03-04T00:00:00Z'])
    expect(read(files.get('feed.xml')!).texts('entry/title')).toHaveLength(2)
    const named = (path: string) => /href="([^"]*feed[^"]*)"/.exec(files.get(path)!)?.[1]
    expect(named('index.html')).toBe(`${address}feed.xml`)
    expect(named('neues/index.html')).toBe(`${address}feed-de-at.xml`)
    const pageIds = [pageCalled(site, 'Sturm, 4. März 2031').id]
    const left = change(site, store, { kind: 'setPageFlag', pageIds, flag: 'inMenus', value: false })
    expect([...buildAll(left, store).keys()].filter((path) => path.startsWith('feed'))).toEqual(['feed.xml'])
    expect(buildAll(left, store).get('neues/index.html')).not.toContain('feed')
    expect(buildSite(left, store).signatureOf(pageId)).not.toBe(buildSite(site, store).signatureOf(pageId))
  })

  test('a file of the site’s own at its place stays; without an address, a date or the wish there is none', () => {
    const store = new TextStore()
    const site = withFeed(store)
    const has = (of: Site) => [...buildAll(of, store).keys()].filter((path) => path.startsWith('feed'))
    expect(has(site)).toEqual(['feed.xml'])
    const own = {
      id: 'own',
      fileKind: 'other' as const,
      label: '/Feed.xml',
      hash: store.put('<rss/>'),
      sizeBytes: 6,
    }
    const beside = change(site, store, { kind: 'addFile', ...own })
    expect(has(beside)).toEqual([])
    expect(buildAll(beside, store).get('Feed.xml')).toBe('<rss/>')
    expect(buildAll(beside, store).get('index.html')).not.toContain('<link')
    expect(has({ ...site, publicAddress: '' })).toEqual([])
    const { feed: _, ...output } = site.output
    const unwanted = change(site, store, { kind: 'setOutput', output, was: site.output })
    expect(has(unwanted)).toEqual([])
    const pageIds = [pageCalled(site, 'News').id]
    expect(has(change(site, store, { kind: 'setPageFlag', pageIds, flag: 'dated', value: false }))).toEqual(
      [],
    )
    // And all of it can be undone.
    const undone = applyDiff(unwanted, reverseDiff(diffSites(site, unwanted)))
    expect('site' in undone && has(undone.site)).toEqual(['feed.xml'])
  })

  test('is made again when what it tells of changes, and not for other pages', () => {
    const store = new TextStore()
    const site = withFeed(store)
    const signature = (of: Site) => buildSite(of, store).signatureOf('feed en')
    expect(signature(write(site, store, 'Birds', '<p>New.</p>'))).toBe(signature(site))
    expect(signature(write(site, store, 'Gale warning, 3 March 2031', '<p>New.</p>'))).not.toBe(signature(site)) // prettier-ignore
  })
})
