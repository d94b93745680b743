import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import { defaultScheme, slotOf } from '#core/site'
import { brokenReferences, buildAll, pageCalled, siteFrom, sites, TextStore, write } from '#core/testing'
import { compareBrought, isPageName, type Understood } from './index'
import { asTheyAre, bring, outcomes } from '../testing/bringing'

/** The plan as lines of labels, indented. */
const planOf = ({ site }: Understood) =>
  treeOf(site).places.map(({ page, depth }) => '  '.repeat(depth) + page.label)

const page = (title: string, nav: string, main: string) => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${title} - Saltings Ferry</title>
<link rel="stylesheet" href="ferry.css">
</head>
<body>
<div id="head"><a href="index.html"><img src="boat.gif" alt="Ferry"></a></div>
<ul id="nav">
${nav}
</ul>
<div id="main">
${main}
</div>
<div id="foot">Saltings Ferry, the old slip</div>
</body>
</html>
`
const nav = (own: string) =>
  [['index.html', 'Home'], ['times.html', 'Times'], ['fares.html', 'Fares'], ['boats.html', 'The boats']]
    .map(([href, label]) => (label === own ? `<li class="on">${label}</li>` : `<li><a href="${href}">${label}</a></li>`))
    .join('\n') // prettier-ignore

describe('a site made by hand', () => {
  const files = {
    'ferry/index.html': page('Home', nav('Home'), '<h1>Welcome</h1>\n<p>See the <a href="times.html#sun">Sundays</a>.</p>'),
    'ferry/times.html': page('Times', nav('Times'), '<h1>Times</h1>\n<h2 id="sun">Sundays</h2>\n<p>At nine.</p>'),
    'ferry/fares.html': page('Fares', nav('Fares'), '<h1>What it costs</h1>\n<p><a href="gone.html">Groups</a></p>'),
    'ferry/boats.html': page('The boats', nav('The boats'), '<h1>The boats</h1>\n<p><a href="tern.html">Tern</a></p>'),
    'ferry/tern.html': page('Tern', nav(''), '<h1>Tern</h1>\n<p><img src="boat.gif" alt=""></p>'),
    'ferry/ferry.css': 'body { background: url(boat.gif) }\n',
    'ferry/boat.gif': 'GIF89a',
  } // prettier-ignore

  test('a folder with a home page is a section by itself, and what few call the home page is not its label', () => {
    const text = '<h1>Bay</h1><p><a href="bay/index.html">the bay</a>, <a href="index.html">as I said</a></p>'
    const understood = bring(
      {
        ...files,
        'ferry/fares.html': page('Fares', nav('Fares'), text).replace('>Home</a>', '>Saltings Ferry</a>'),
        'ferry/bay/index.html': page('Bay', '', '<h1>The bay</h1>').replaceAll('="', '="../'),
        'ferry/bay/sand.html': page('Sand', '', '<h1>Sand</h1>').replaceAll('="', '="../'),
        'ferry/index.html': page('Landing', nav(''), '<h1>The landing</h1>'),
        ...Object.fromEntries(
          ['times', 'boats', 'tern'].map((name) => [
            `ferry/${name}.html`,
            files[`ferry/${name}.html` as keyof typeof files].replace('>Home</a>', '>Saltings Ferry</a>'),
          ]),
        ),
      },
      new TextStore(),
    )
    expect(planOf(understood)).toEqual([
      'The landing',
      'Times',
      'Fares',
      'The boats',
      '  Tern',
      'The bay',
      '  Sand',
    ])
  })

  test('is understood: its plan from the menu, its title pattern, one template with a slot where pages differ', () => {
    const store = new TextStore()
    const understood = bring(files, store)
    const { site, templates } = understood
    expect(planOf(understood)).toEqual(['Home', 'Times', 'Fares', 'The boats', '  Tern'])
    expect(site).toMatchObject({ name: 'Saltings Ferry', titlePattern: '{page} - {site}', language: 'en' })
    expect(templates).toMatchObject([{ name: 'Shared template', isWhole: false, slots: [] }])
    expect(templates[0]!.pageIds).toHaveLength(5)
    const source = store.textOf(site.templates[0]!.source)
    expect(source).toContain('<title>{title}</title>')
    expect(source).toContain('<link rel="stylesheet" href="/ferry.css">')
    expect(source).toContain(
      '<site-menu levels="1" own="mark" home="first" as="list" own-item-class="on" id="nav"></site-menu>',
    )
    expect(source).toContain('<div id="main">\n<slot name="content"></slot>\n</div>')
    expect(store.textOf(pageCalled(site, 'Times').content)).toBe(
      '<h1>Times</h1>\n<h2 id="sun">Sundays</h2>\n<p>At nine.</p>',
    )
  })

  test('comes out as it was, under its old names, and what led nowhere is all that does', () => {
    const store = new TextStore()
    const understood = bring(files, store, { ...asTheyAre, generates: false })
    expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['same']))
    const built = buildAll(understood.site, store)
    expect([...built.keys()].sort()).toEqual(
      Object.keys(files).map((path) => path.slice('ferry/'.length)).sort(),
    ) // prettier-ignore
    expect(brokenReferences(built)).toEqual(['fares.html: gone.html'])
  })

  test('keeps its names wherever its files stand, also in folders that no page of the plan stands for', () => {
    const store = new TextStore()
    const at = (steps: number, text: string) => text.replaceAll('="', `="${'../'.repeat(steps)}`)
    const { site } = bring(
      {
        ...files,
        'ferry/news/regatta.html': at(1, page('Regatta', '', '<h1>Regatta</h1>')),
        'ferry/about/index.html': at(1, page('About', '', '<h1>About</h1>')),
        'ferry/old/1998/Storm.html': at(2, page('The storm', '', '<h1>The storm</h1>')),
      },
      store,
      { ...asTheyAre, generates: false },
    )
    const built = buildAll(site, store)
    for (const path of ['news/regatta.html', 'about/index.html', 'old/1998/Storm.html', 'times.html'])
      expect([path, built.get(path)?.includes('http-equiv="refresh"')]).toEqual([path, false])
    expect(site.pages.flatMap(({ addresses }) => addresses)).toEqual([])
    expect(brokenReferences(built).filter((line) => !line.endsWith('gone.html'))).toEqual([])
  })

  test('is written in what is more than a menu, however long menus are', () => {
    const store = new TextStore()
    const links = (nth: number) => Array.from({ length: 9 }, (_, at) => `<li><a href="${nth === at ? 'index' : `x${at}`}.html">Somewhere ${at}</a></li>`).join('') // prettier-ignore
    const framed = (nth: number) =>
      `<!DOCTYPE html><title>P${nth}</title><div id="a"><ul>${links(nth)}</ul></div><div id="b"><h1>P${nth}</h1><p>${nth}</p></div>`
    const { site } = bring({ 'index.html': framed(0), 'a.html': framed(1), 'b.html': framed(2) }, store)
    expect(store.textOf(site.templates[0]!.source)).toMatch(
      /<div id="a"><slot name="a"><\/slot><\/div><div id="b">.*<slot name="content"><\/slot>/,
    )
  })

  test('without a shared menu has the plan of its page of contents, and no label that all pages share', () => {
    const store = new TextStore()
    const leaf = (at: number) =>
      `<title>Part ${at} - The book</title><h1>The book</h1><h2>Part ${at}</h2><p><a rel="next" href="p${at + 1}.html">on</a> <a href="p${at + 1}.html" rel=prefetch>on</a></p>`
    const lists = '<ul><li><a href="p1.html">One</a><ul><li><a href="p2.html">One half</a></li></ul></li><li><a href="p3.html">2. Part 3</a></li></ul>'
    const pages = {
      'index.html': '<title>The book</title><h1>The book</h1><p><a rel="next" href="p1.html">on</a></p>',
      'contents.html': `<title>Contents - The book</title>${lists}`,
      ...Object.fromEntries([1, 2, 3, 4].map((at) => [`p${at}.html`, leaf(at)])),
    }
    expect(planOf(bring(pages, store))).toEqual(['The book', 'One', '  One half', 'Part 3', '  Part 4', 'Contents'])
  }) // prettier-ignore

  test('leads where it led when that is nowhere, from each folder, or above the site', () => {
    const store = new TextStore()
    const framed = (text: string, up: string) =>
      `<!DOCTYPE html>\n<html><head><title>${text}</title><link rel="stylesheet" href="${up}gone.css"></head>\n<body><div id="a"><a href="${up}../club/">The club</a></div>\n<p>${text}</p></body></html>\n`
    const understood = bring(
      { 'index.html': framed('Home', ''), 'a.html': framed('A', ''), 'sub/index.html': framed('B', '../'), 'sub/c.html': framed('C', '../') },
      store,
    ) // prettier-ignore
    expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['same']))
    const built = buildAll(understood.site, store)
    expect(built.get('index.html')).toContain('href="gone.css"')
    expect(built.get('index.html')).toContain('href="../club/"')
    expect(built.get('sub/c.html')).toContain('href="../gone.css"')
    expect(built.get('sub/c.html')).toContain('href="../../club/"')
  })

  test('has empty descriptions where each page has one, and titles of another kind where a kind of pages has them', () => {
    const store = new TextStore()
    const stub = (to: string) =>
      `<!DOCTYPE html>\n<html><head><title>Moved</title><meta name="description" content=""></head>\n<body class="gone"><center><p>To <a href="${to}">there</a></p></center></body></html>\n`
    const understood = bring({ ...files, 'ferry/x.html': stub('times.html'), 'ferry/y.html': stub('fares.html') }, store, { ...asTheyAre, generates: false })
    expect(understood.templates).toHaveLength(2)
    expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['same']))
  }) // prettier-ignore

  test('has the plan that a picture with places to click on is the menu of', () => {
    const store = new TextStore()
    const names = { zones: 'Where it lies', boats: 'Our boats', about: 'Who we are' }
    const map = Object.entries(names).map(([name, alt]) => `<area shape="rect" coords="0,0,9,9" href="${name}.html" alt="${alt}">`).join('\n') // prettier-ignore
    const page = (text: string) =>
      `<HTML><HEAD><TITLE>Saltings</TITLE></HEAD>\n<BODY><IMG SRC="menu.gif" USEMAP="#menu" ALT="">\n<MAP NAME="menu">\n${map}\n</MAP>\n<P>${text}</P></BODY></HTML>\n`
    const understood = bring(
      { 'index.html': page('Welcome'), ...Object.fromEntries(Object.keys(names).map((name) => [`${name}.html`, page(name)])) },
      store,
    )
    expect(understood.site.pages.map(({ label, inMenus }) => [label, inMenus]).slice(1)).toEqual([['Where it lies', true], ['Our boats', true], ['Who we are', true]]) // prettier-ignore
    expect(new Set(Object.values(outcomes(understood, store)))).not.toContain('otherwise')
  }) // prettier-ignore

  test('calls pages that say nothing of themselves as links call them, but not what several are called', () => {
    const store = new TextStore()
    const page = (text: string) => `<html><head><title>Untitled</title></head>\n<body>\n<p>${text}</p>\n</body></html>\n`
    const { site } = bring(
      {
        'index.html': page('See <a href="p1.html">how we go out</a>, or <a href="p2.html">here</a>. <a href="p3.html">More</a>'),
        'p1.html': page('To <a href="p2.html">the old boats</a>, <a href="p3.html">here</a>, <a href="index.html">back</a>'),
        'p2.html': page('To <a href="p1.html">how we go out</a>, <a href="p4.html">more</a>'),
        'p3.html': page('<a href="p4.html">here</a>'),
        'p4.html': page('Nothing.'),
      },
      store,
    )
    expect(site.pages.map(({ label }) => label).sort()).toEqual(['P3', 'P4', 'Untitled', 'how we go out', 'the old boats'])
  }) // prettier-ignore

  test('keeps the titles of pages that have not what most have in theirs, and of a home page that says it twice', () => {
    const store = new TextStore()
    const titled = (title: string, text: string) =>
      `<!DOCTYPE html>\n<html><head><title>${title}</title></head>\n<body><h1>${text}</h1>\n<p>${text}</p>\n</body></html>\n`
    const understood = bring(
      {
        'index.html': titled('Saltpan - Saltpan', 'Home'),
        'tides.html': titled('Tides - Saltpan', 'Tides'),
        'stay.html': titled('Stay - Saltpan', 'Stay'),
        'birds.html': titled('Where the terns are', 'Terns'),
      },
      store,
    )
    expect(understood.templates).toHaveLength(1)
    expect(understood.site).toMatchObject({ name: 'Saltpan', titlePattern: '{page} - {site}', homeTitlePattern: '{page}' })
    expect(understood.site.pages.map(({ title, titleAlone }) => [title, titleAlone])).toEqual([
      ['Saltpan - Saltpan', false],
      ['Where the terns are', true],
      [null, false],
      [null, false],
    ])
    expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['same']))
  }) // prettier-ignore

  test('with menus that follow the plan comes out otherwise there, and nowhere else', () => {
    const store = new TextStore()
    const compared = compareBrought(bring(files, store), store)
    // A page that is in no menu has it as it was.
    expect(compared.map(({ path, outcome }) => (path === 'tern.html' ? 'menus' : outcome))).toEqual(
      Array.from({ length: 5 }, () => 'menus'),
    )
    const times = compared.find(({ path }) => path === 'times.html')!
    // Its list is the one that it was; it marks the page so that it is heard as well.
    const lines = times.stretches.flatMap(({ was, becomes }) =>
      [...was, ...becomes].map((line) => line.trim()),
    )
    expect(lines).toEqual([
      '<li class="on">Times</li>',
      '<li class="on"><a aria-current="page">Times</a></li>',
    ])
  })

  test('under another scheme leads everywhere it led, and forwards from where its pages stood', () => {
    const store = new TextStore()
    const scheme = { ...defaultScheme, arrangement: { kind: 'folder-a-page' } as const }
    const { site } = bring(files, store, { scheme, lifts: true, generates: false })
    const built = buildAll(site, store)
    expect(built.has('the-boats/tern/index.html')).toBe(true)
    expect(built.get('tern.html')).toContain('the-boats/tern/index.html')
    // What led nowhere leads nowhere still.
    expect(brokenReferences(built).map((line) => line.replace(/.*: /, ''))).toEqual(['../gone.html'])
    expect(built.get('index.html')).toContain('href="times/index.html#sun"')
  })

  test('is kept page by page where its author wants that', () => {
    const store = new TextStore()
    const understood = bring(files, store, { scheme: null, lifts: false, generates: false })
    expect(understood.templates).toMatchObject([{ isWhole: true }])
    expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['same']))
  })
})

test('pages that lead to one another in a long row, or in a circle, are a plan that can be made', () => {
  const page = (at: number, to: number) =>
    `<!DOCTYPE html><title>Page ${at}</title><h1>Page ${at}</h1><p><a href="p${to}.html">on</a></p>`
  const row = Array.from({ length: 400 }, (_, at) => [at === 0 ? 'index.html' : `p${at}.html`, page(at, at + 1)])
  const { site } = bring(Object.fromEntries(row), new TextStore())
  expect(site.pages).toHaveLength(400)
  expect(Math.max(...treeOf(site).places.map(({ depth }) => depth))).toBe(99)
  // Folders whose home pages nobody but the other leads to.
  const circle = { 'index.html': page(0, 9), 'p1.html': page(1, 2), 'p2.html': page(2, 1), 'p9.html': page(9, 1) }
  expect(bring(circle, new TextStore()).site.pages).toHaveLength(4)
}) // prettier-ignore

describe('a site of ours', () => {
  test('brought in again has its plan, its texts, and a template that makes the same pages', () => {
    const store = new TextStore()
    let site = siteFrom(
      'Home\n  Visit\n    Tides & ferries\n    The pier\n  Birds\n    Terns\n  Contact',
      store,
    )
    site = write(site, store, 'Terns', '<h2>In May</h2>\n<p>They come; see <a href="/visit/the-pier.html">the pier</a>.</p>\n') // prettier-ignore
    site = write(site, store, 'Visit', '<p>By boat.</p>\n')
    site = write(site, store, 'Birds', '<p>Many.</p>\n')
    const built = Object.fromEntries(buildAll(site, store))
    const again = bring(built, store)
    expect(planOf(again)).toEqual(
      treeOf(site).places.map(({ page: one, depth }) => '  '.repeat(depth) + one.label),
    )
    expect(new Set(Object.values(outcomes(again, store)))).toEqual(new Set(['same']))
    expect(brokenReferences(buildAll(again.site, store))).toEqual([])
    for (const label of ['Terns', 'Visit'])
      expect(store.textOf(slotOf(pageCalled(again.site, label), 'content'))).toContain(
        label === 'Terns' ? '<h2>In May</h2>' : '<p>By boat.</p>',
      )
    expect([...namesOf(again.site).byPath.keys()].sort()).toEqual(Object.keys(built).sort())
  })

  test('of any shape and scheme comes in again with every page and nothing that leads nowhere', () => {
    fc.assert(
      fc.property(sites, (make) => {
        const store = new TextStore()
        const site = make(store)
        const built = Object.fromEntries(buildAll(site, store))
        const again = bring(built, store)
        expect(again.pages).toHaveLength(Object.keys(built).filter((path) => isPageName(path)).length)
        expect(brokenReferences(buildAll(again.site, store))).toEqual([])
        expect(compareBrought(again, store).filter(({ outcome }) => outcome === 'otherwise')).toEqual([])
      }),
      { numRuns: 100 },
    )
  })
})

describe('pages with a base address', () => {
  const based = (base: string, body: string) =>
    `<!DOCTYPE html>\n<html><head><base href="${base}"><title>x</title></head>\n<body>${body}</body></html>\n`
  const bringPages = (base: string, links: string) =>
    bring(
      {
        'index.html': based(base, '<a href="tides/now.html">Now</a>'),
        'tides/now.html': based(base, links),
        'tides/sea.gif': 'x',
      },
      new TextStore(),
    )
  const leadsTo = ({ pages, old }: Understood, path: string) => {
    const page = pages.find((one) => one.path === path)!
    return [...page.references].map(({ href }) => {
      const target = old.resolve(href, path)
      return 'path' in target ? `${target.kind} ${target.path}${target.suffix}` : target.kind
    })
  }
  const links = '<a href="index.html">Home</a> <img src="tides/sea.gif" alt=""> <a href="#x">x</a>'
  const wanted = ['page index.html', 'file tides/sea.gif', 'page index.html#x']

  test.each(['/', 'http://club.example/', 'http://club.example/~anna/', '/~anna/'])(
    'lead where they led under %s',
    (base) => {
      const understood = bringPages(base, links)
      expect(leadsTo(understood, 'tides/now.html')).toEqual(wanted)
      expect(understood.remarks.map(({ path, why }) => `${path}: ${why}`)).toEqual([
        `index.html: Its base address (${base}) goes, and one reference is written as it made them lead.`,
        `tides/now.html: Its base address (${base}) goes, and 3 references are written as it made them lead.`,
      ])
    },
  )

  test('lead where they led when it is written from the page itself', () => {
    const understood = bring(
      {
        'index.html': '<title>x</title><a href="tides/now.html">Now</a>',
        'tides/now.html': based('../', links),
        'tides/sea.gif': 'x',
      },
      new TextStore(),
    )
    expect(leadsTo(understood, 'tides/now.html')).toEqual(wanted)
  })

  test('lead away when it is an address of somewhere else', () => {
    const cart = '<a href="cart.html">Cart</a> <a href="/a">a</a>'
    const understood = bring(
      {
        'index.html': '<title>x</title><a href="tides/now.html">Now</a>',
        'tides/now.html': based('http://other.example/shop/', cart),
      },
      new TextStore(),
    )
    expect(understood.pages.find(({ path }) => path === 'tides/now.html')!.text).toContain(
      '<a href="http://other.example/shop/cart.html">Cart</a> <a href="http://other.example/a">a</a>',
    )
  })
})

test('a site whose links name folders comes in as it was, to the byte', () => {
  const store = new TextStore()
  const plain = siteFrom('Home\n  Birds\n    Terns\n    Gulls\n  Visit\n    Getting here\n  Contact', store)
  const site = { ...plain, output: { ...plain.output, links: 'folders' as const } }
  const built = buildAll(site, store)
  expect(built.get('birds/terns.html')).toContain('href="./"')
  const understood = bring(Object.fromEntries(built), store)
  expect(understood.site.output.links).toBe('folders')
  expect([...buildAll(understood.site, store)]).toEqual([...built])
})
