import { describe, expect, test } from '@jest/globals'
import { mostInSitemap, namesOf } from '#core/naming'
import { findFindings } from '#core/findings'
import type { Site } from '#core/site'
import { brokenReferences, buildAll, change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { buildSite } from './index'

const outline = 'Home\n  Birds\n    Tern & auk\n  Sketch (trial page)\n  404'
const addressed = (store: TextStore, address = 'https://skerry.example/light/'): Site => {
  const site = siteFrom(outline, store)
  const placed = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: address, was: '' })
  return change(placed, store, { kind: 'setOutput', output: { ...placed.output, sitemap: true }, was: placed.output }) // prettier-ignore
}
const locations = (site: Site, store: TextStore, path = 'sitemap.xml') =>
  [...(buildAll(site, store).get(path) ?? '').matchAll(/<loc>(.*?)<\/loc>/g)].map(([, at]) => at)

describe('the sitemap', () => {
  test('is made where it is wanted only', () => {
    const store = new TextStore()
    expect(buildAll(siteFrom(outline, store), store).has('sitemap.xml')).toBe(false)
  })

  test('lists all pages but those that are not to be found, by where visitors find them', () => {
    const store = new TextStore()
    const site = addressed(store)
    expect(buildAll(site, store).get('sitemap.xml')).toMatch(/^<\?xml version="1.0" encoding="UTF-8"\?>\n<urlset xmlns="http:\/\/www.sitemaps.org\/schemas\/sitemap\/0.9">\n {2}<url><loc>/) // prettier-ignore
    const at = (label: string) => namesOf(site).pages.get(pageCalled(site, label).id)!.path
    expect(locations(site, store)).toEqual([
      'https://skerry.example/light/',
      'https://skerry.example/light/birds/',
      `https://skerry.example/light/${at('Tern & auk')}`,
    ])
    const unlisted = write(site, store, 'Birds', '<meta name="Robots" content="nofollow, NOINDEX">')
    expect(locations(unlisted, store)).toHaveLength(2)
    const [template] = site.templates
    const of = store.textOf(template!.source).replace('</title>', '</title><meta name=robots content=none>')
    const none = { ...site, templates: [{ ...template!, source: store.put(of) }] }
    expect(locations(none, store)).toEqual([])
  })

  test('is one of the files of the site: references lead to it, and it goes where nobody can know an address', () => {
    const store = new TextStore()
    const site = write(addressed(store), store, 'Birds', '<p><a href="/sitemap.xml">All pages</a></p>')
    const files = buildAll(site, store)
    // Its own addresses are those of a host.
    expect(brokenReferences(new Map([...files, ['sitemap.xml', '']]))).toEqual([])
    const broken = (of: Site) =>
      findFindings(of, store).filter(({ rule }) => rule === 'broken-reference').length
    expect(broken(site)).toBe(0)
    expect(buildAll(site, store).get('birds/index.html')).toContain('href="../sitemap.xml"')
    const homeless = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: '', was: site.publicAddress }) // prettier-ignore
    expect(buildAll(homeless, store).has('sitemap.xml')).toBe(false)
    expect(broken(homeless)).toBe(1)
  })

  test('changes with the plan, and not with what pages say', () => {
    const store = new TextStore()
    const site = addressed(store)
    const signature = (of: Site) => buildSite(of, store).signatureOf('made sitemap.xml')
    expect(signature(write(site, store, 'Birds', '<p>New.</p>'))).toBe(signature(site))
    const output = { ...site.output, lineEnd: 'crlf' as const }
    const ended = change(site, store, { kind: 'setOutput', output, was: site.output })
    expect(signature(ended)).not.toBe(signature(site))
    expect(buildAll(ended, store).get('sitemap.xml')).toContain('</url>\r\n')
    const birds = pageCalled(site, 'Birds')
    const renamed = change(site, store, { kind: 'setPageText', pageId: birds.id, field: 'label', value: 'Fowl', was: 'Birds' }) // prettier-ignore
    expect(signature(renamed)).not.toBe(signature(site))
    expect(locations(renamed, store)).toContain('https://skerry.example/light/fowl/')
  })

  test('gives way to one that the site has', () => {
    const store = new TextStore()
    const own = { id: 'own', kind: 'other' as const, label: '/Sitemap.xml', seq: 99, hash: store.put('<urlset/>'), sizeBytes: 9 } // prettier-ignore
    const before = addressed(store)
    const site = { ...before, files: [...before.files, own] }
    expect(buildAll(site, store).get('Sitemap.xml')).toBe('<urlset/>')
    expect(buildAll(site, store).has('sitemap.xml')).toBe(false)
  })

  test('is named to who reads robots.txt, where the site is all of its host and has none of its own', () => {
    const store = new TextStore()
    expect(buildAll(addressed(store), store).has('robots.txt')).toBe(false)
    const site = addressed(store, 'https://skerry.example/')
    expect(buildAll(site, store).get('robots.txt')).toBe('User-agent: *\nDisallow:\n\nSitemap: https://skerry.example/sitemap.xml\n') // prettier-ignore
    expect(locations(site, store)).toHaveLength(3)
    const own = { id: 'own', kind: 'other' as const, label: '/robots.txt', seq: 99, hash: store.put('User-agent: *\n'), sizeBytes: 14 } // prettier-ignore
    const kept = buildAll({ ...site, files: [...site.files, own] }, store)
    expect([kept.get('robots.txt'), kept.has('sitemap.xml')]).toEqual(['User-agent: *\n', true])
    const { publicAddress: was } = site
    const moved = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: 'https://light.example/', was }) // prettier-ignore
    expect(buildAll(moved, store).get('robots.txt')).toContain('Sitemap: https://light.example/sitemap.xml')
  })

  test('of more pages than one may list is a list of lists', () => {
    const store = new TextStore()
    const site = addressed(store)
    const birds = pageCalled(site, 'Birds')
    const many = Array.from({ length: mostInSitemap }, (_, at) => ({ ...birds, id: `p${at}`, parentId: null, label: `p${at}`, seq: 100 + at, order: `b${String(at).padStart(5, '0')}` })) // prettier-ignore
    const large = { ...site, pages: [...site.pages, ...many] }
    const build = buildSite(large, store)
    const text = (path: string) => build.textOf(build.entries.find((one) => one.path === path)!.id)
    expect(text('sitemap.xml')).toContain('<sitemapindex')
    expect(text('sitemap.xml')).toContain('<loc>https://skerry.example/light/sitemap-2.xml</loc>')
    expect(text('sitemap-1.xml').match(/<loc>/g)).toHaveLength(mostInSitemap)
    expect(text('sitemap-2.xml').match(/<loc>/g)).toHaveLength(3)
  })
})
