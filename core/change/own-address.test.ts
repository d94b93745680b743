import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { resolveReference } from '#core/links'
import { fileSyntaxOf, readHtml, referencesOfFile } from '#core/markup'
import { namesOf } from '#core/naming'
import { defaultScheme, type Site } from '#core/site'
import { homeFileOf } from '#core/template'
import { buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { findRewrites } from './index'

const address = 'https://skerry.example/light/'

/** A site that says where it stands, as sites of today do. */
function addressed(store: TextStore): Site {
  const plain = siteFrom('Home\n  Birds\n    Terns\n  Visit', store)
  const files = {
    'feed.xml': `<rss><link>${address}</link><item><link>${address}birds/terns.html</link><guid>${address}birds/terns.html</guid></item></rss>`,
    'sitemap.xml': `<urlset><url><loc>${address}visit.html</loc></url><url><loc>${address}birds/</loc></url></urlset>`,
    'robots.txt': `Sitemap: ${address}sitemap.xml\n`,
    'list.json': `["${address}birds/terns.html#x", "https://other.example/birds/terns.html"]`,
  }
  const site: Site = {
    ...plain,
    publicAddress: address,
    nextSeq: plain.nextSeq + 5,
    files: [
      ...plain.files,
      ...[...Object.entries(files), ['tern.jpg', 'JPG'] as const].map(([label, text], index) => ({
        id: label,
        kind: label.endsWith('jpg') ? ('image' as const) : ('document' as const),
        label: label.endsWith('jpg') ? label : `/${label}`,
        seq: plain.nextSeq + index,
        hash: store.put(text),
        sizeBytes: text.length,
      })),
    ],
  }
  const birds = pageCalled(site, 'Birds')
  const html = `<a href="${address}visit.html?x#y">Visit</a><a href="http://skerry.example/light/birds/terns.html">Terns</a>
<img src="${address}images/tern.jpg" alt=""><a href="${address}nothing.html">x</a><a href="https://other.example/visit.html">y</a>
<script type="application/ld+json">{"image": "${address}images/tern.jpg", "name": "${address}no.jpg"}</script>`
  return change(site, store, {
    kind: 'setContent',
    pageId: birds.id,
    content: store.put(html),
    was: birds.content,
  })
}
const held = (site: Site, store: TextStore, label: string) =>
  store.textOf(site.files.find(({ id }) => id === label)!.hash)
const textOf = (site: Site, store: TextStore, label: string) => store.textOf(pageCalled(site, label).content)
const rename = (site: Site, store: TextStore, label: string, value: string) =>
  change(site, store, {
    kind: 'setPageText',
    pageId: pageCalled(site, label).id,
    field: 'label',
    value,
    was: label,
  })
const readdress = (site: Site, store: TextStore, value: string) =>
  change(site, store, { kind: 'setSetting', field: 'publicAddress', value, was: site.publicAddress })

/** What each reference with a whole address leads to, in pages and in files. */
function leads(site: Site, store: TextStore): string[] {
  const names = namesOf(site)
  const texts = [
    ...site.pages.map((page) => ({
      of: page.label,
      references: readHtml(store.textOf(page.content)).references,
    })),
    ...site.files.flatMap((file) => {
      const syntax = fileSyntaxOf(file.label, file.sizeBytes)
      return syntax ? [{ of: file.id, references: referencesOfFile(store.textOf(file.hash), syntax) }] : []
    }),
  ]
  return texts.flatMap(({ of, references }) =>
    references
      .filter(({ href }) => /^https?:/.test(href))
      .map(({ href, holder }) => {
        const target = resolveReference(href, '', names, homeFileOf(site))
        return `${of}: ${holder} ${'id' in target ? target.id + target.suffix : href}`
      }),
  )
}

describe('references with the address of the site written out', () => {
  test('follow what they lead to, and stay whole', () => {
    const store = new TextStore()
    const site = addressed(store)
    const after = rename(rename(site, store, 'Visit', 'Getting here'), store, 'Birds', 'Fowl')
    const text = textOf(after, store, 'Fowl')
    expect(text).toContain(`href="${address}getting-here.html?x#y"`)
    expect(text).toContain('href="http://skerry.example/light/fowl/terns.html"')
    expect(text).toContain(`href="${address}nothing.html"`)
    expect(text).toContain('https://other.example/visit.html')
    expect(held(after, store, 'sitemap.xml')).toBe(
      `<urlset><url><loc>${address}getting-here.html</loc></url><url><loc>${address}fowl/</loc></url></urlset>`,
    )
    expect(held(after, store, 'feed.xml')).toBe(
      `<rss><link>${address}</link><item><link>${address}fowl/terns.html</link><guid>${address}birds/terns.html</guid></item></rss>`,
    )
    expect(held(after, store, 'list.json')).toContain(
      `${address}fowl/terns.html#x", "https://other.example/birds`,
    )
  })

  test('come out as they are written, and everything else relative', () => {
    const store = new TextStore()
    const site = addressed(store)
    const built = buildAll(site, store).get('birds/index.html')!
    expect(built).toContain(`href="${address}visit.html?x#y"`)
    expect(built).toContain(`"image": "${address}images/tern.jpg"`)
    expect(built).toContain('href="../visit.html"')
  })

  test('follow the site to another address, and back to the byte', () => {
    const store = new TextStore()
    const site = addressed(store)
    const moved = readdress(site, store, 'tern.example')
    expect(moved.publicAddress).toBe('https://tern.example/')
    const text = textOf(moved, store, 'Birds')
    expect(text.match(/https?:\/\/[^"]+/g)).toEqual([
      'https://tern.example/visit.html?x#y',
      'https://tern.example/birds/terns.html',
      'https://tern.example/images/tern.jpg',
      'https://tern.example/nothing.html',
      'https://other.example/visit.html',
      'https://tern.example/images/tern.jpg',
      `${address}no.jpg`,
    ])
    expect(held(moved, store, 'robots.txt')).toBe('Sitemap: https://tern.example/sitemap.xml\n')
    expect(leads(moved, store).filter((one) => !/no(thing)?\.\w+$/.test(one))).toEqual(
      leads(site, store).filter((one) => !/no(thing)?\.\w+$/.test(one)),
    )
    const back = readdress(moved, store, address)
    expect(held(back, store, 'feed.xml')).toBe(held(site, store, 'feed.xml'))
  })

  test('the address by itself is one of the home page, whatever that is called', () => {
    const store = new TextStore()
    const plain = addressed(store)
    const visit = pageCalled(plain, 'Visit')
    const html =
      '<a href="https://skerry.example/light">Home</a> <a href="https://skerry.example/light/?x">x</a>'
    const site = change(plain, store, {
      kind: 'setContent',
      pageId: visit.id,
      content: store.put(html),
      was: visit.content,
    })
    const scheme = { ...site.scheme, homeName: 'start', extension: '.htm' as const }
    const renamed = change(site, store, { kind: 'setScheme', scheme, was: site.scheme })
    expect(textOf(renamed, store, 'Visit').replace('light/"', 'light"')).toBe(html)
    expect(textOf(readdress(renamed, store, 'https://tern.example/'), store, 'Visit')).toBe(
      '<a href="https://tern.example/">Home</a> <a href="https://tern.example/?x">x</a>',
    )
  })

  test('are nobody’s where the address is not known, and stay when it is forgotten', () => {
    const store = new TextStore()
    const site = addressed(store)
    const forgotten = readdress(site, store, '')
    expect(forgotten).toEqual({ ...site, publicAddress: '' })
    const renamed = rename(forgotten, store, 'Visit', 'Getting here')
    expect(textOf(renamed, store, 'Birds')).toBe(textOf(site, store, 'Birds'))
  })

  test('an address under another one of the host is told apart from it', () => {
    const store = new TextStore()
    const site = addressed(store)
    const top = readdress(site, store, 'https://skerry.example/')
    expect(textOf(top, store, 'Birds')).toContain('href="https://skerry.example/visit.html?x#y"')
    const deeper = readdress(top, store, 'https://skerry.example/light/of/')
    expect(textOf(deeper, store, 'Birds')).toContain('href="https://skerry.example/light/of/visit.html?x#y"')
  })

  test('lead where they led after any changes of names, places, schemes and addresses', () => {
    const label = fc.constantFrom('Visit', 'Birds', 'Terns')
    const step = fc.oneof(
      fc.record({ kind: fc.constant('rename' as const), label, to: fc.constantFrom('A', 'B b', 'Ü?', 'Birds 2') }),
      fc.record({ kind: fc.constant('scheme' as const), image: fc.constantFrom('', 'p', 'images'), home: fc.constantFrom('index', 'start'), extension: fc.constantFrom('.html' as const, '.htm' as const) }),
      fc.record({ kind: fc.constant('address' as const), to: fc.constantFrom('https://a.example/', 'http://a.example/b/', address) }),
    ) // prettier-ignore
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 5 }), (steps) => {
        const store = new TextStore()
        let site = addressed(store)
        const ids = new Map(site.pages.map(({ label: was, id }) => [was, id]))
        const before = leads(site, store).map((one) => one.replace(/^.*?: /, ''))
        for (const one of steps) {
          if (one.kind === 'address') site = readdress(site, store, one.to)
          else if (one.kind === 'scheme')
            site = change(site, store, { kind: 'setScheme', scheme: { ...defaultScheme, homeName: one.home, extension: one.extension, folders: { ...defaultScheme.folders, image: one.image } }, was: site.scheme }) // prettier-ignore
          else {
            const page = site.pages.find(({ id }) => id === ids.get(one.label))!
            site = change(site, store, { kind: 'setPageText', pageId: page.id, field: 'label', value: one.to, was: page.label }) // prettier-ignore
          }
        }
        const isGone = (one: string) => /no(thing)?\.\w+$/.test(one)
        const after = leads(site, store).map((one) => one.replace(/^.*?: /, ''))
        expect(after.filter((one) => !isGone(one))).toEqual(before.filter((one) => !isGone(one)))
      }),
      { numRuns: 60 },
    )
  })
})

test('setting an address where none was, or the same again, rewrites nothing', () => {
  const store = new TextStore()
  const site = addressed(store)
  const sources = { factsOf: (hash: string) => readHtml(store.textOf(hash)), textOf: store.textOf }
  expect(findRewrites({ ...site, publicAddress: '' }, site, sources)).toEqual([])
  expect(findRewrites(site, { ...site }, sources)).toEqual([])
})
