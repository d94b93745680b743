import { describe, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { bring, outcomes } from '../testing/bringing'
import { buildAll, change, pageCalled, TextStore } from '#core/testing'

/** A page as many make them: what it is stands in its `body`, for style sheets. */
const page = (label: string, tags: string, text = `<p>${label}, in words.</p>`) => `<!DOCTYPE html>
${tags.includes('<html') ? tags.split('\n')[0] : '<html lang="en">'}
<head>
<meta charset="utf-8">
<title>${label} - Seahouse</title>
</head>
${tags.split('\n').at(-1)}
<header><p>Seahouse</p></header>
<nav><ul>
<li><a href="index.html">Home</a></li>
<li><a href="rooms.html">Rooms</a></li>
<li><a href="about.html">About us</a></li>
</ul></nav>
<main>
<h1>${label}</h1>
${text}
</main>
</body>
</html>
`
const source = (understood: ReturnType<typeof bring>, store: TextStore) =>
  store.textOf(understood.site.templates[0]!.source)

describe('attributes around a page that each page has of its own', () => {
  const files = {
    'index.html': page('Home', '<body id="home" class="wide">'),
    'rooms.html': page('Rooms', '<body id="rooms" class="wide two &amp; more">'),
    'about.html': page('About us', '<body id="about">'),
  }

  test('are values of the template, and the rest is shared', () => {
    const store = new TextStore()
    const understood = bring(files, store)
    expect(source(understood, store)).toContain('<body id="{slot.id}" class="{slot.class}">')
    expect(source(understood, store)).toContain('<site-menu')
    const rooms = pageCalled(understood.site, 'Rooms')
    expect(Object.keys(rooms.slots).sort()).toEqual(['class', 'id'])
    expect(store.textOf(rooms.slots.class!)).toBe('wide two & more')
    expect(store.textOf(rooms.content)).toBe('<p>Rooms, in words.</p>')
    expect(Object.values(outcomes(understood, store))).toEqual(['menus', 'menus', 'menus'])
    const built = buildAll(understood.site, store)
    expect(built.get('about.html')).toContain('<body id="about">')
    expect(built.get('rooms.html')).toContain('<body id="rooms" class="wide two &amp; more">')
  })

  test('a page that is added has none, and gets what is written for it', () => {
    const store = new TextStore()
    const { site } = bring(files, store)
    const pathOf = (of: typeof site) => namesOf(of).pages.get('new')!.path
    const added = change(site, store, { kind: 'addPages', pages: [{ id: 'new', label: 'Garden' }], parentId: null, after: null, content: store.put('') }) // prettier-ignore
    expect(buildAll(added, store).get(pathOf(added))).toContain('\n<body>\n')
    const told = change(added, store, { kind: 'setContent', pageId: 'new', slot: 'id', content: store.put('gar"den'), was: pageCalled(added, 'Garden').slots.id ?? store.put('') }) // prettier-ignore
    expect(buildAll(told, store).get(pathOf(told))).toContain('<body id="gar&quot;den">')
  })

  test('what refers or runs is no value: the page is written in whole there, and follows what it names', () => {
    const store = new TextStore()
    const understood = bring(
      {
        'index.html': page('Home', '<body onload="start(\'rooms.html\')">'),
        'rooms.html': page('Rooms', '<body onload="stop()">'),
        'about.html': page('About us', '<body>'),
      },
      store,
    )
    expect(source(understood, store)).not.toContain('{slot.')
    expect(Object.values(outcomes(understood, store))).toEqual(['same', 'same', 'same'])
  })

  test('one page that runs something of its own is kept whole, and the others share what they share', () => {
    const store = new TextStore()
    const more = Object.fromEntries(
      ['a', 'b', 'c'].map((name) => [`${name}.html`, page(name, `<body class="${name}">`)]),
    )
    const understood = bring(
      { ...files, ...more, 'map.html': page('Map', '<body class="map" onload="draw(\'rooms.html\')">') },
      store,
    )
    expect(understood.templates.map(({ isWhole, pageIds }) => [isWhole, pageIds.length])).toEqual([
      [false, 6],
      [true, 1],
    ])
    expect(source(understood, store)).toContain('class="{slot.class}"')
    expect(outcomes(understood, store)['map.html']).toBe('same')
  })

  test('pages of two languages have a template each, and one that says none has that of the others', () => {
    const store = new TextStore()
    const understood = bring(
      {
        'index.html': page('Home', '<html lang="en">\n<body>'),
        'rooms.html': page('Rooms', '<html lang="en-GB">\n<body>'),
        'about.html': page('About us', '<html>\n<body>'),
        'zimmer.html': page('Zimmer', '<html lang="de">\n<body>'),
        'haus.html': page('Das Haus', '<html lang="de">\n<body>'),
      },
      store,
    )
    const texts = understood.site.templates.map(({ source: hash }) => store.textOf(hash))
    expect(texts.map((text) => /<html.*>/.exec(text)![0]).sort()).toEqual([
      '<html lang="de">',
      '<html lang="{slot.html-lang}">',
    ])
    const built = buildAll(understood.site, store)
    expect(
      ['index.html', 'rooms.html', 'about.html', 'haus.html'].map(
        (path) => /<html.*>/.exec(built.get(path)!)![0],
      ),
    ).toEqual(['<html lang="en">', '<html lang="en-GB">', '<html>', '<html lang="de">'])
  })

  test('a site in two languages has a section for each, with a menu of its own', () => {
    const store = new TextStore()
    const pages = {
      en: { index: 'Welcome', rooms: 'Rooms', contact: 'Contact' },
      de: { index: 'Willkommen', rooms: 'Zimmer', contact: 'Kontakt' },
    }
    const files: Record<string, string> = {
      'index.html':
        '<!DOCTYPE html>\n<html lang="en">\n<head><title>Seehaus</title></head>\n<body><p><a href="en/index.html">English</a> <a href="de/index.html">Deutsch</a></p></body></html>\n',
    }
    for (const [language, other] of [
      ['en', 'de'],
      ['de', 'en'],
    ] as const)
      for (const [name, label] of Object.entries(pages[language])) {
        const menu = Object.entries(pages[language]).map(
          ([to, said]) => `<li><a href="${to}.html">${said}</a></li>`,
        )
        files[`${language}/${name}.html`] =
          `<!DOCTYPE html>\n<html lang="${language}">\n<head><title>${label}</title></head>\n<body>\n<header><a href="../${other}/${name}.html" hreflang="${other}">${other}</a></header>\n<ul>\n${menu.join('\n')}\n</ul>\n<main>\n<p>${label}.</p>\n</main>\n</body>\n</html>\n`
      }
    const understood = bring(files, store)
    const { site } = understood
    const above = (label: string) =>
      site.pages.find(({ id }) => id === pageCalled(site, label).parentId)?.label
    expect(['Welcome', 'Willkommen', 'Rooms', 'Kontakt'].map(above)).toEqual([
      undefined,
      undefined,
      'Welcome',
      'Willkommen',
    ])
    const texts = site.templates
      .map(({ source: hash }) => store.textOf(hash))
      .filter((text) => text.includes('<main>'))
    expect(texts).toHaveLength(2)
    for (const text of texts) {
      expect(text).toContain('<site-menu levels="1" of="section" own="mark" home="first"></site-menu>')
      expect(text).toContain('<main>\n<slot name="content"></slot>\n</main>')
    }
  })

  test('where nothing around them is shared, each is kept whole', () => {
    const store = new TextStore()
    const understood = bring(
      {
        'index.html': page('Home', '<html style="a: b">\n<body>'),
        'rooms.html': page('Rooms', '<html style="c: d">\n<body>'),
      },
      store,
    )
    expect(understood.templates.map(({ isWhole }) => isWhole)).toEqual([true])
    expect(Object.values(outcomes(understood, store))).toEqual(['same', 'same'])
  })
})
