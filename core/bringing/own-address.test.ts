import { describe, expect, test } from '@jest/globals'
import { defaultScheme } from '#core/site'
import { pageAddress } from '#core/template'
import { asTheyAre, bring, outcomes } from '../testing/bringing'
import { buildAll, change, pageCalled, TextStore } from '#core/testing'
import { publicAddressIn } from './reading/public-address'

const address = 'https://ferry.example/saltings/'

/** A page as sites of today have them. */
const page = (label: string, said: string, body: string) => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${label} - Saltings Ferry</title>
<link rel="canonical" href="${said}">
<meta property="og:url" content="${said}">
<meta property="og:image" content="${address}img/boat.jpg">
</head>
<body>
<nav><a href="/saltings/index.html">Home</a> <a href="${address}times.html">Times</a></nav>
<main>
<h1>${label}</h1>
${body}
</main>
</body>
</html>
`
const files = {
  'index.html': page('Home', address, `<p>See the <a href="${address}boats/tern.html">Tern</a>.</p>`),
  'times.html': page('Times', `${address}times.html`, '<p>At nine.</p>'),
  'boats/index.html': page('Boats', `${address}boats/`, '<p>Two of them.</p>'),
  'boats/tern.html': page('Tern', `${address}boats/tern.html`, '<p>The old one.</p>'),
  'img/boat.jpg': 'JPG',
  'sitemap.xml': `<urlset><url><loc>${address}boats/tern.html</loc></url><url><loc>${address}boats/</loc></url></urlset>`,
}

describe('pages that say where visitors find them', () => {
  test('tell the address of their site, and the template says that of each', () => {
    const store = new TextStore()
    const understood = bring(files, store)
    const { site } = understood
    expect(site.publicAddress).toBe(address)
    const source = store.textOf(site.templates[0]!.source)
    expect(source).toContain('<link rel="canonical" href="{address}">')
    expect(source).toContain('<meta property="og:url" content="{address}">')
    expect(source).toContain(`content="${address}img/boat.jpg"`)
    expect(site.pages.flatMap(({ slots }) => Object.keys(slots))).toEqual([])
    expect(Object.values(outcomes(understood, store))).toEqual(['same', 'same', 'same', 'same'])
    const tern = pageCalled(site, 'Tern')
    expect(pageAddress(site, tern)).toBe(`${address}boats/tern.html`)
    expect(pageAddress(site, pageCalled(site, 'Boats'))).toBe(`${address}boats/`)
    expect(pageAddress(site, pageCalled(site, 'Home'))).toBe(address)
  })

  test('name what they named under other names, wherever it is said', () => {
    const store = new TextStore()
    const scheme = {
      ...defaultScheme,
      extension: '.htm' as const,
      folders: { ...defaultScheme.folders, image: 'pictures', other: '' },
    }
    const { site } = bring(files, store, { ...asTheyAre, scheme })
    const built = buildAll(site, store)
    const home = built.get('index.htm')!
    expect(home).toContain(`<link rel="canonical" href="${address}">`)
    expect(home).toContain(`<a href="${address}boats/tern.htm">Tern</a>`)
    expect(home).toContain(`<meta property="og:image" content="${address}pictures/boat.jpg">`)
    expect(built.get('boats/tern.htm')).toContain(
      `<meta property="og:url" content="${address}boats/tern.htm">`,
    )
    expect(store.textOf(site.files.find(({ label }) => label.endsWith('sitemap.xml'))!.hash)).toBe(
      `<urlset><url><loc>${address}boats/tern.htm</loc></url><url><loc>${address}boats/</loc></url></urlset>`,
    )
  })

  test('one that says none is not made to', () => {
    const store = new TextStore()
    const silent = files['times.html'].replace(/<link rel="canonical".*\n<meta property="og:url".*\n/, '')
    const understood = bring({ ...files, 'times.html': silent }, store)
    const built = buildAll(understood.site, store)
    expect(built.get('times.html')).not.toContain('canonical')
    expect(built.get('boats/tern.html')).toContain(`<link rel="canonical" href="${address}boats/tern.html">`)
    expect(outcomes(understood, store)['times.html']).not.toBe('otherwise')
  })

  test('follow the site to another address and their pages to other names', () => {
    const store = new TextStore()
    const { site } = bring(files, store)
    const moved = change(site, store, {
      kind: 'setSetting',
      field: 'publicAddress',
      value: 'https://tern.example/',
      was: address,
    })
    const renamed = change(moved, store, {
      kind: 'setPageText',
      pageId: pageCalled(site, 'Tern').id,
      field: 'ownName',
      value: 'the-tern',
      was: pageCalled(site, 'Tern').ownName,
    })
    const built = buildAll(renamed, store)
    expect(built.get('boats/the-tern.html')).toContain(
      '<link rel="canonical" href="https://tern.example/boats/the-tern.html">',
    )
    expect(built.get('index.html')).toContain('<a href="https://tern.example/boats/the-tern.html">Tern</a>')
    expect([...built.values()].join()).not.toContain('ferry.example')
  })
})

describe('the address of a site by what its pages say', () => {
  const said = (path: string, head: string) => ({
    path,
    kind: 'page' as const,
    hash: '',
    sizeBytes: 1,
    text: `<!DOCTYPE html><head>${head}</head>`,
  })
  const canonical = (href: string) => `<LINK REL='canonical' HREF='${href}'>`
  test.each([
    ['index.html', canonical('https://ferry.example'), 'https://ferry.example/'],
    ['index.html', canonical('https://ferry.example/index.html'), 'https://ferry.example/'],
    ['boats/index.html', canonical('https://ferry.example/a/boats'), 'https://ferry.example/a/'],
    ['boats/tern.html', canonical('https://ferry.example/boats/tern'), 'https://ferry.example/'],
    ['a b.html', canonical('http://ferry.example/a%20b.html?x'), 'http://ferry.example/'],
    [
      'times.html',
      '<meta content="https://ferry.example/times.html" property=og:url>',
      'https://ferry.example/',
    ],
    ['times.html', canonical('https://ferry.example/other.html'), ''],
    ['times.html', canonical('/times.html'), ''],
    ['times.html', canonical('javascript:times.html'), ''],
    ['times.html', '<link rel="canonical">', ''],
  ])('%s with %s', (path, head, address) => {
    expect(publicAddressIn([said(path, head)])).toBe(address)
  })

  test('is what most say', () => {
    const pages = ['a', 'b', 'c'].map((name) =>
      said(`${name}.html`, canonical(`https://ferry.example/${name}.html`)),
    )
    expect(publicAddressIn([...pages, said('d.html', canonical('https://x.example/d.html'))])).toBe(
      'https://ferry.example/',
    )
    expect(
      publicAddressIn([
        ...pages,
        ...['d', 'e', 'f'].map((name) => said(`${name}.html`, canonical('https://x.example/'))),
      ]),
    ).toBe('')
  })
})
