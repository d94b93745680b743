import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { brokenReferences, buildAll, TextStore } from '#core/testing'
import { namesOf } from '#core/naming'
import { asTheyAre, bring, outcomes } from '../testing/bringing'
import { compareBrought } from './index'

describe('old and awkward pages', () => {
  const awkward = {
    'INDEX.HTM': '<HTML><BODY BGCOLOR=white><CENTER><H1>Hi</H1></CENTER><A HREF="pages/one.htm">one</A><P>x<P>y',
    'pages/one.htm': '<title>One</title><table><tr><td><a href="../INDEX.HTM">home</a><td>text</table>',
    'pages/frames.htm': '<html><frameset cols="20%,*"><frame src="one.htm"><frame src="../INDEX.HTM"></frameset></html>',
    'pages/empty.html': '',
    'pages/notes.html': 'no markup at all & <b>bold',
    'pages/page {page}.html': '<p>{page} and <slot>x</slot></p>',
    'ssi.shtml': '<!--#include virtual="/top.html" --><p>body</p></body>',
  } // prettier-ignore

  test('come in with nothing lost', () => {
    const store = new TextStore()
    const understood = bring(awkward, store)
    expect(understood.site.pages).toHaveLength(7)
    const built = buildAll(understood.site, store)
    const text = [...built.values()].join('\n')
    for (const piece of ['<H1>Hi</H1>', '<P>x<P>y', '<frame src="one.htm">', 'no markup at all & <b>bold', '#include virtual'])
      expect(text).toContain(piece) // prettier-ignore
    expect(understood.remarks.some(({ path }) => path === 'ssi.shtml')).toBe(true)
  })

  test('are called what their home page says, where that says more than that it is one', () => {
    const called = (title: string) => {
      const understood = bring({ 'index.html': `<title>${title}</title><h1>x</h1>`, 'a.html': '<title>A</title>a' }, new TextStore(), { ...asTheyAre, name: 'backup-3' }) // prettier-ignore
      return understood.site.name
    }
    expect(called('The Gannet Row Choir')).toBe('The Gannet Row Choir')
    for (const title of ['Home', 'Home Page', 'Welcome', 'index', 'Untitled Document'])
      expect(called(title)).toBe('backup-3')
  })

  test('are in the language that they are written in, where none of them says one', () => {
    const german = '<p>Der Chor singt in der Kirche auf dem Felsen, und die Leute kommen im Sommer, wenn es schön ist. Wir proben jeden Abend, auch wenn nicht alle da sind, die sonst singen.'
    const languageOf = (files: Readonly<Record<string, string>>) =>
      bring(files, new TextStore()).site.language
    const pages = { 'index.html': `<h1>Chor</h1>${german}`, 'a.html': `<title>A</title>${german}`, 'b.html': 'Bell 1' }
    expect(languageOf(pages)).toBe('de')
    expect(languageOf({ ...pages, 'c.html': '<html lang=fr><p>x' })).toBe('fr')
    expect(languageOf({ 'index.html': 'Bell 1' })).toBe('en')
  }) // prettier-ignore

  test('find each other by the letters of another system, composed or not; what only leads back names nothing', () => {
    const page = (title: string, links: string) =>
      `<html lang="de"><title>${title}</title><h1>${title}</h1>${links}</html>\n`
    const back = '<a href="index.htm">zurück</a>'
    const files = {
      'index.htm': page('Willkommen', '<a href="Über uns.htm">a</a> <a href="%DCber%20uns.htm#x">b</a> <a href="U\u0308ber%20uns.htm">c</a> <a href="Bilder/M%F6we.gif">d</a> <a href="Gr%FCn.htm">e</a>'),
      'Über uns.htm': page('Über uns', back), 'Rot.htm': page('Rot', back), 'Blau.htm': page('Blau', back), 'Bilder/Möwe.gif': 'GIF89a',
    } // prettier-ignore
    const store = new TextStore()
    const { site } = bring(files, store)
    expect(site.pages.map(({ label }) => label)).toEqual(['Willkommen', 'Über uns', 'Blau', 'Rot'])
    const [about, home] = ['Über uns', 'Willkommen'].map((called) =>
      site.pages.find(({ label }) => label === called)!,
    )
    const built = buildAll(site, store)
    const to = namesOf(site).pages.get(about!.id)!.path
    const hrefs = [...built.get(namesOf(site).pages.get(home!.id)!.path)!.matchAll(/href="([^"]+)"/g)].map(
      ([, href]) => (href === 'Gr%FCn.htm' ? href : decodeURIComponent(href!).replace('./', '')),
    )
    // The last one leads nowhere in any letters, and stays as it is.
    expect(hrefs).toEqual([to, `${to}#x`, to, 'Bilder/Möwe.gif', 'Gr%FCn.htm'])
  })

  test('keep what tells them apart: how a browser is told to read them, what a second body adds, frames, where a footer leads', () => {
    const store = new TextStore()
    const [strict, loose] = ['"-//W3C//DTD HTML 4.01//EN"', '"-//W3C//DTD HTML 4.01 Transitional//EN"']
    const framed = (name: string) => `<HTML>\n<HEAD><TITLE>Guide</TITLE></HEAD>\n<FRAMESET COLS="170,*">\n<FRAME SRC="menu.html">\n<FRAME SRC="${name}.html">\n</FRAMESET>\n</HTML>\n`
    const plain = (type: string, name: string, body: string, more = '') => `<!DOCTYPE HTML PUBLIC ${type}>\n<html>\n<head><title>${name}</title></head>\n${body}\n<div id="main">\n<h1>${name}</h1>\n<p>${name} is here.</p>\n${more}</div>\n[ <a href="menu.html">Menu</a> ]\n</body>\n</html>\n`
    const pages = {
      'index.html': framed('one'), 'f-two.html': framed('two'), 'f-three.html': framed('three'),
      'menu.html': plain(strict, 'Menu', '<body>'), 'one.html': plain(strict, 'One', '<body>'),
      'two.html': plain(loose, 'Two', '<body>'), 'three.html': plain(loose, 'Three', '<BODY>').replace('<html>', '<HTML>'),
      'four.html': plain(strict, 'Four', '<body>\n<body background="sea.gif">'), 'five.html': plain(strict, 'Five', '<body background="sea.gif">'),
      'sea.gif': 'GIF89a', 'de/menu.html': plain(strict, 'Inhalt', '<body>'), 'de/one.html': plain(strict, 'Eins', '<body>'),
    } // prettier-ignore
    const understood = bring(pages, store)
    const found = outcomes(understood, store)
    expect(Object.values(found).filter((outcome) => outcome === 'otherwise' || outcome === 'menus')).toEqual([])
    const built = buildAll(understood.site, store)
    for (const [path, text] of Object.entries(pages)) {
      const made = built.get(path)!
      expect([path, made.includes('<slot')]).toEqual([path, false])
      for (const tag of text.match(/<(!doctype|frame|body|a) [^>]*>/gi) ?? []) expect([path, made]).toEqual([path, expect.stringContaining(tag)])
    }
    expect(brokenReferences(built)).toEqual([])
  }) // prettier-ignore

  test('are told apart from what is only written otherwise', () => {
    const store = new TextStore()
    const page = (title: string, upper: boolean, charset: string) => {
      const tags = `<html>\n<head>${charset}<title>${title}</title></head>\n<body>\n<div id="top">Chapel</div>\n<p>${title}.</p>\n</body>\n</html>\n`
      return upper ? tags.replace(/<\/?(html|head|body)>/g, (tag) => tag.toUpperCase()) : tags
    }
    const charset = '<meta charset="iso-8859-1">'
    const pages = { 'index.html': page('Home', false, charset), 'a.html': page('A', true, charset), 'b.html': page('B &ndash; b', false, ''), 'c.html': page('C', false, charset) } // prettier-ignore
    const understood = bring(pages, store)
    expect(understood.templates.map(({ pageIds }) => pageIds.length)).toEqual([4])
    expect(outcomes(understood, store)).toEqual({ 'index.html': 'spaces', 'a.html': 'spaces', 'b.html': 'spaces', 'c.html': 'spaces' }) // prettier-ignore
  })

  test('with braces in what they share keep them, and keep themselves whole', () => {
    const store = new TextStore()
    const page = (title: string) => `<html><head><title>${title}</title></head><body><div id="a">Type {page} here</div><p>${title}</p></body></html>\n` // prettier-ignore
    const understood = bring({ 'index.html': page('Home'), 'a.html': page('A'), 'b.html': page('B') }, store)
    expect(understood.templates).toMatchObject([{ isWhole: true }])
    for (const text of buildAll(understood.site, store).values()) expect(text).toContain('Type {page} here')
  })

  test('are called by their files where many have one title, and by what most menus call them', () => {
    const store = new TextStore()
    const page = (title: string, links: string) => `<html><head><title>${title}</title></head><body><ul>${links}</ul></body></html>\n` // prettier-ignore
    const chapters = ['tides', 'boats', 'birds', 'light', 'lens', 'keepers', 'pier']
    const link = (name: string, label: string) => `<li><a href="${name}.html">${label}</a></li>`
    const all = chapters.map((name) => link(name, `The ${name}`)).join('')
    const files = Object.fromEntries(chapters.map((name) => [`${name}.html`, page('Written by a program', name === 'pier' ? '' : link('pier', 'The pier'))])) // prettier-ignore
    const understood = bring({ 'index.html': page('Guide', link('tides', 'next') + all), ...files, 'odd_page-2.html': page('Written by a program', '') }, store) // prettier-ignore
    const labels = understood.site.pages.map(({ label }) => label)
    expect(labels).toEqual(expect.arrayContaining(['The tides', 'The pier', 'Odd page 2']))
    expect(labels).not.toContain('next')
    expect(labels).not.toContain('Written by a program')
  })

  test('whose tags cross one another keep their words, each its own', () => {
    const pieces = fc.constantFrom('W', 'W', 'same', '<a id="q"/>', '<a href="p1.html">', '</a>', '<b>', '</b>', '<font color="red">', '</font>', '<div>', '<div id="m">', '</div>', '<h2>', '</h2>', '<table><tr><td>', '</table>', '<td>', '<tr>', '<p>', '<ul>', '<li>', '</ul>', '<nobr>', '<form>', '</form>', '<body class="x">', '</body>', '<i>', '<main>', '</main>', '<script>"W"</script>', '<img alt="W">', '<p title="W">', '<!-- W -->', '&eacute;') // prettier-ignore
    const wordsIn = (html: string) => html.match(/W\d+of\d+/g) ?? []
    fc.assert(
      fc.property(fc.array(pieces, { minLength: 3, maxLength: 25 }), (body) => {
        // The last one is in another folder, and forgot to end what is bold.
        const files = Object.fromEntries(
          ['p0.html', 'p1.html', 'p2.html', 'sub/p3.html'].map((path, page) => {
            const own = body.map((one, at) =>
              page === 3 && one === '</b>' ? '' : one.replace('W', `W${at}of${page}`),
            )
            return [path, `<html><head><title>T</title></head><body>${own.join('')}</body></html>\n`]
          }),
        )
        const store = new TextStore()
        const built = buildAll(bring(files, store).site, store)
        for (const [path, html] of Object.entries(files))
          expect(wordsIn(built.get(path)!)).toEqual(wordsIn(html))
      }),
      { numRuns: 400 },
    )
  })

  test('have one template, whatever letters their tags and doctypes are in', () => {
    const page = (name: string, upper: boolean) => {
      const [doctype, div, br] = upper
        ? ['<!DOCTYPE HTML>', 'DIV', '<BR>']
        : ['<!doctype html>', 'div', '<br />']
      return `${doctype}<html><head><title>${name}</title></head><body><${div} class="top">Gannet${br}Row</${div}><div class="text"><p>${name} of old</p><p>${name} of today</p></div></body></html>\n`
    }
    const names = ['Tides', 'Boats', 'Birds', 'Lens']
    const files = Object.fromEntries(names.map((name, at) => [`${name}.html`, page(name, at % 2 === 1)]))
    const store = new TextStore()
    const understood = bring(files, store)
    expect(understood.templates.map(({ pageIds }) => pageIds.length)).toEqual([4])
    expect(Object.values(outcomes(understood, store))).not.toContain('otherwise')
  })

  test('one of which crosses its tags keeps itself whole, and the others have their template', () => {
    const page = (name: string, heading = `<h2><a id="x"></a>What ${name} is</h2>`) =>
      `<html><head><title>${name}</title></head><body><div class="top">Gannet Row</div><div class="part">\n${heading}\n</div><div class="text"><p>${name} of old</p><p>${name} of today</p></div><div class="foot">The keeper</div></body></html>\n`
    const names = ['Tides', 'Boats', 'Birds', 'Lens']
    const files = {
      ...Object.fromEntries(names.map((name) => [`${name}.html`, page(name)])),
      'Odd.html': page('Odd', '<h2><a id="x"/>What Odd is</h2>'),
    }
    const store = new TextStore()
    const understood = bring(files, store)
    expect(understood.templates[0]!.pageIds.length).toBeGreaterThanOrEqual(4)
    expect(Object.values(outcomes(understood, store))).not.toContain('otherwise')
  })

  test('that forget to end their headings are called what those say, and no more', () => {
    const page = (name: string) =>
      `<html><body><h1>${name} of old<p>All that ${name} is.<table><tr><td>x</table></body></html>\n`
    const files = Object.fromEntries(['Tides', 'Boats', 'Birds'].map((name) => [`${name}.html`, page(name)]))
    const { site } = bring(files, new TextStore())
    const labels = site.pages.map(({ label }) => label)
    for (const name of ['Tides of old', 'Boats of old', 'Birds of old']) expect(labels).toContain(name)
  })

  test('of any kind end in a site that is whole, and that can be made', () => {
    const pieces = fc.constantFrom('<p>', '</p>', '<div id="a">', '</div>', '<ul>', '<li>', '<a href="b.html">', '<a href="/">', 'x', '\n', '<title>T - S</title>', '</body>', '<html>', '<head>', '<table><tr><td>', '<h1>Q</h1>', '<!-- c -->', '<script>if (a<b) {page}</script>', '<meta name=description content="d">', '<a href="sub/">') // prettier-ignore
    const text = fc.array(pieces, { maxLength: 14 }).map((list) => list.join(''))
    const paths = ['a.html', 'b.html', 'sub/index.html', 'sub/d.html'] as const
    // Wherever edges are said to be: what is no element's is no edge.
    const mark = fc.record({
      path: fc.constantFrom(...paths),
      start: fc.nat(60),
      end: fc.nat(120),
      to: fc.constantFrom('slot' as const, 'frame' as const),
    })
    const marksOf = fc.array(mark, { maxLength: 3 })
    fc.assert(
      fc.property(fc.tuple(text, text, text, text), marksOf, (texts, marks) => {
        const store = new TextStore()
        const files = Object.fromEntries(paths.map((path, at) => [path, texts[at]!]))
        const understood = bring({ ...files, 'x.css': 'p{}' }, store, { ...asTheyAre, marks })
        expect(understood.site.pages).toHaveLength(4)
        const compared = compareBrought(understood, store)
        expect(compared).toHaveLength(4)
        const plainStore = new TextStore()
        const plain = bring({ ...files, 'x.css': 'p{}' }, plainStore)
        const asFound = compareBrought(plain, plainStore).filter(({ outcome }) => outcome === 'otherwise')
        expect(compared.filter(({ outcome }) => outcome === 'otherwise').length).toBeLessThanOrEqual(
          asFound.length,
        )
      }),
      { numRuns: 300 },
    )
  })
})

test('a site as it is written today: a menu that marks its page, an imprint beside it, a home page that says more', () => {
  const store = new TextStore()
  const entries = [['/', 'Home'], ['/about/', 'About'], ['/log/', 'Log'], ['/contact.html', 'Contact']] as const
  const page = (title: string, current: string, main: string) => `<!doctype html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>${title}</title>
  <link rel="canonical" href="https://forge.example${current}">
  <link rel="stylesheet" href="/css/main.css">
</head>
<body>
  <header><nav aria-label="Main"><ul>
${entries.map(([href, label]) => `    <li><a href="${href}"${href === current ? ' aria-current="page"' : ''}>${label}</a></li>`).join('\n')}
  </ul></nav></header>
  <main>
${main}
  </main>
  <footer><p>Ours. <a href="/imprint.html">Imprint</a></p></footer>
</body>
</html>
`
  const files = {
    'index.html': page('Forge: knives and tools', '/', '<h1>Made slowly</h1>'),
    'about/index.html': page('About us | Forge', '/about/', '<h1>About us</h1>'),
    'log/index.html': page('Log | Forge', '/log/', '<h1>Log</h1>\n<ul><li><a href="fire.html">First fire</a></li></ul>'),
    'log/fire.html': page('First fire | Forge', '/log/', '<h1>First fire</h1>'),
    'contact.html': page('Contact | Forge', '/contact.html', '<h1>Contact</h1>'),
    'imprint.html': page('Imprint | Forge', '', '<h1>Imprint</h1>'),
    'css/main.css': '@layer a { nav { ul { background: url("/img/dots.png") } } }',
    'img/dots.png': 'x',
  }
  const understood = bring(files, store)
  const { site } = understood
  const inMenus = site.pages.filter((one) => one.inMenus && one.parentId === null && one.id !== site.homeId).map(({ label }) => label)
  expect(inMenus).toEqual(['About', 'Log', 'Contact'])
  expect([site.titlePattern, site.homeTitlePattern, site.output.links]).toEqual(['{page} | {site}', '{page}', 'folders'])
  expect(buildAll(site, store).get('log/fire.html')).toContain('<a href="./" aria-current="true">Log</a>')
  expect(store.textOf(site.templates[0]!.source)).toMatch(/<site-menu levels="1" own="mark" home="first" as="nav" aria-label="Main"><\/site-menu>/)
  // But for what marks a page in its menu now, all is as it was: the home page's own title, too.
  expect(new Set(Object.values(outcomes(understood, store)))).toEqual(new Set(['menus', 'spaces']))
  expect(outcomes(understood, store)['imprint.html']).toBe('spaces')
}) // prettier-ignore
