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
    expect(Object.values(outcomes(understood, store))).toEqual(['menus', 'menus', 'same', 'same'])
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

  test('say other things of themselves as well, each by its value, and an error page has no address to say', () => {
    const store = new TextStore()
    const told = (label: string, said: string | null, about: string, title = `${label} - Saltings Ferry`) =>
      page(label, said ?? '', '<p>Nothing.</p>')
        .replace(/<link rel="canonical".*\n<meta property="og:url".*\n/, (both) =>
          said === null ? '' : both,
        )
        .replace(
          '</head>',
          `<meta name="description" content="${about}">
<meta property="og:title" content="${label}">
<meta property='og:description' content='${about}'>
<meta name="card:title" content="${title}">
<meta name="card:description" content="The same of all">
<meta name="dc.title" content="Page ${label.length}">
</head>`,
        )
    const understood = bring(
      {
        '404.html': told('Not found', null, 'There is nothing here.'),
        'index.html': told('Home', address, 'A ferry.'),
        'times.html': told('Times', `${address}times.html`, 'When it goes & comes.'.replace('&', '&amp;')),
        'boats/tern.html': told('Tern', `${address}boats/tern.html`, 'The old boat.'),
      },
      store,
    )
    const source = store.textOf(understood.site.templates[0]!.source)
    expect(source).toContain('<link rel="canonical" href="{address}">')
    expect(source).toContain('<meta property="og:title" content="{page}">')
    expect(source).toContain("<meta property='og:description' content='{description}'>")
    expect(source).toContain('<meta name="card:title" content="{title}">')
    expect(source).toContain('content="The same of all"')
    expect(source).not.toContain('dc.title')
    expect(Object.values(outcomes(understood, store))).toEqual(['same', 'menus', 'menus', 'same'])
  })

  test('one that says it twice, or of another page, says it as it did', () => {
    const store = new TextStore()
    const twice = files['times.html'].replace('</head>', `<link rel="canonical" href="${address}">\n</head>`)
    const understood = bring({ ...files, 'times.html': twice }, store)
    expect(store.textOf(understood.site.templates[0]!.source)).not.toContain('canonical')
    expect(outcomes(understood, store)['times.html']).toMatch(/^(menus|same|spaces)$/)
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

test('what is asked for by its name stands where it is asked for under any scheme, and folders stay named as folders', () => {
  const store = new TextStore()
  const kept = {
    '404.html': page('Not found', '', '<p>Gone.</p>').replace(
      /<(link|meta) [^>]*(canonical|og:url).*\n/g,
      '',
    ),
    'robots.txt': `Sitemap: ${address}sitemap.xml\n`,
    'favicon.ico': 'ICO',
    'sw.js': `const all = ['/', '/boats/', '/img/boat.jpg']`,
    '.well-known/security.txt': 'Contact: mailto:crew@ferry.example',
    'boats/feed.xml': `<rss><item><link>${address}boats/tern.html</link></item></rss>`,
    'site.webmanifest': '{"start_url": "/", "scope": "/boats/"}',
    'search.json': '["/boats/", "boats/tern.html"]',
  }
  const folders = { image: 'pictures', style: 'css', script: 'js', document: 'papers', other: 'files' }
  const scheme = {
    ...defaultScheme,
    arrangement: { kind: 'sections', sectionPage: 'beside' } as const,
    folders,
  }
  const { site } = bring({ ...files, ...kept }, store, { ...asTheyAre, scheme })
  const built = buildAll(site, store)
  for (const path of [
    '404.html',
    'robots.txt',
    'favicon.ico',
    'sw.js',
    '.well-known/security.txt',
    'boats/feed.xml',
    'sitemap.xml',
  ])
    expect([path, built.has(path)]).toEqual([path, true])
  expect(built.get('robots.txt')).toBe(kept['robots.txt'])
  expect(built.get('sw.js')).toBe(`const all = ['/', '/boats.html', '/pictures/boat.jpg']`)
  expect(built.get('files/search.json')).toBe('["/boats.html", "boats/tern.html"]')
  expect(built.get('files/site.webmanifest')).toBe('{"start_url": "/", "scope": "/boats/"}')
  const asItWas = bring({ ...files, ...kept }, store)
  const again = buildAll(asItWas.site, store)
  for (const path of ['sw.js', 'search.json', 'site.webmanifest', 'boats/feed.xml'] as const)
    expect(again.get(path)).toBe(kept[path])
})

test('references without an ending, as hosts of today show pages, name the files from now on, and that is said', () => {
  const store = new TextStore()
  const short = (label: string, said: string, body: string) =>
    page(label, said, body).replace(
      /<nav>.*<\/nav>/,
      '<nav><a href="/">Home</a> <a href="/times">Times</a> <a href="/boats/tern">Tern</a></nav>',
    )
  const understood = bring(
    {
      'index.html': short(
        'Home',
        'https://ferry.example/',
        '<p><a href="times#sun">Sundays</a> <a href="/nowhere">x</a></p>',
      ),
      'times.html': short(
        'Times',
        'https://ferry.example/times',
        '<p>At nine, with the <a href="https://ferry.example/boats/tern?x">Tern</a>.</p>',
      ),
      'boats/tern.html': short('Tern', 'https://ferry.example/boats/tern', '<p>Old.</p>'),
    },
    store,
  )
  expect(understood.site.publicAddress).toBe('https://ferry.example/')
  const built = buildAll(understood.site, store)
  expect(built.get('index.html')).toContain('<a href="times.html#sun">Sundays</a> <a href="nowhere">x</a>')
  expect(built.get('times.html')).toContain('<a href="https://ferry.example/boats/tern.html?x">')
  expect(built.get('times.html')).toContain('<link rel="canonical" href="https://ferry.example/times.html">')
  expect(store.textOf(understood.site.templates[0]!.source)).toContain('<site-menu')
  expect(understood.remarks.filter(({ why }) => why.includes('without an ending'))).toMatchObject([
    { path: expect.stringContaining('.html') },
  ])
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
