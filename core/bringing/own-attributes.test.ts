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
      '<html lang="{language}">',
      '<html lang="{slot.html-lang}">',
    ])
    const built = buildAll(understood.site, store)
    expect(
      ['index.html', 'rooms.html', 'about.html', 'haus.html'].map(
        (path) => /<html.*>/.exec(built.get(path)!)![0],
      ),
    ).toEqual(['<html lang="en">', '<html lang="en-GB">', '<html>', '<html lang="de">'])
  })

  test('a site in two languages has a section for each, with a menu of its own, and one template where that says its language', () => {
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
    expect(texts).toHaveLength(1)
    expect(site.pages.filter(({ language }) => language !== null).map(({ label }) => label)).toEqual([
      'Willkommen',
    ])
    // What is added there is in that language, and named so.
    const added = change(site, store, { kind: 'addPages', pages: [{ id: 'new', label: 'Über uns' }], parentId: pageCalled(site, 'Willkommen').id, after: null, content: store.put('') }) // prettier-ignore
    const text = buildAll(added, store).get('de/ueber-uns.html')
    expect(text).toContain('<html lang="de">')
    expect(text).toContain('>Zimmer</a>')
    for (const text of texts) {
      expect(text).toContain('<html lang="{language}">')
      expect(text).toContain(
        '<site-menu levels="1" of="section" own="mark" home="first" as="list"></site-menu>',
      )
      expect(text).toContain('<main>\n<slot name="content"></slot>\n</main>')
    }
  })

  test('what pages say of their language to the letter is a value, also where they share the rest', () => {
    const store = new TextStore()
    const files = {
      'index.html': page('Home', '<html lang="en">\n<body>'),
      'rooms.html': page('Rooms', '<html lang="en-GB">\n<body>'),
      'about.html': page('About us', "<html lang='en'>\n<body>"),
    }
    const understood = bring(files, store)
    const [template] = understood.site.templates
    expect(store.textOf(template!.source)).toContain('<html lang="{language}">')
    expect(understood.site.pages.map(({ language, slots }) => [language, Object.keys(slots)])).toEqual([[null, []], ['en-GB', []], [null, []]]) // prettier-ignore
    // Said otherwise or without quotes it stays as it is.
    for (const tag of ['<html lang=en>', '<html lang="EN">', '<html lang=" en">']) {
      const kept = bring(
        { 'index.html': page('Home', `${tag}\n<body>`), 'rooms.html': page('Rooms', `${tag}\n<body>`) },
        store,
      )
      expect(store.textOf(kept.site.templates[0]!.source)).toContain(tag)
      expect(kept.site.language).toBe('en')
    }
  })

  test('a menu of pages in several languages says which of them are in another, and is told as written anew', () => {
    const store = new TextStore()
    const tags = (language: string) => `<html lang="${language}">\n<body>`
    const understood = bring(
      {
        'index.html': page('Home', tags('en')),
        'rooms.html': page('Rooms', tags('en')),
        'about.html': page('About us', tags('cy')),
      },
      store,
    )
    expect(Object.values(outcomes(understood, store))).toEqual(['menus', 'menus', 'same'])
    expect(buildAll(understood.site, store).get('index.html')).toContain(
      '<a href="about.html" lang="cy" hreflang="cy">About us</a>',
    )
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

describe('attributes of elements within a page that each page has of its own', () => {
  const names = ['index', 'rooms', 'about', 'garden']
  const made = (inner: (name: string) => string) =>
    Object.fromEntries(
      names.map((name) => [
        `${name}.html`,
        `<!DOCTYPE html>\n<html lang="en">\n<head>\n<title>${name}</title>\n</head>\n<body>\n${inner(name)}\n</body>\n</html>\n`,
      ]),
    )
  const header = '<header><p>Seahouse</p></header>'
  const menu = `<ul>\n${names.map((name) => `<li><a href="${name}.html">${name}</a></li>`).join('\n')}\n</ul>`
  const text = (name: string) => `<p>Of the ${name}, and more.</p>`

  test.each([
    ['around all of it, by its name', (name: string) => `<div id="wrap" class="${name} wide">\n${header}\n${menu}\n<div class="text">\n${text(name)}\n</div>\n</div>`, '<div id="wrap" class="{slot.wrap-class}">'],
    ['around all of it, without any', (name: string) => `<div class="page-${name}">\n${header}\n${menu}\n<div class="text">\n${text(name)}\n</div>\n</div>`, '<div class="{slot.div-class}">'],
    ['the main part', (name: string) => `${header}\n${menu}\n<main class="${name}" data-page="${name}">\n${text(name)}\n</main>`, '<main class="{slot.main-class}" data-page="{slot.main-data-page}">'],
    ['by its id, one page without', (name: string) => `${header}\n${menu}\n<section id="text"${name === 'about' ? '' : ` class="${name}"`}>\n${text(name)}\n</section>`, '<section id="text" class="{slot.text-class}">'],
  ])('are values of the template: %s', (_, inner, expected) => {
    const store = new TextStore()
    const files = made(inner)
    const understood = bring(files, store)
    expect(understood.site.templates.filter((_, at) => !understood.templates[at]!.isWhole)).toHaveLength(1)
    expect(source(understood, store)).toContain(expected)
    expect(source(understood, store)).toContain('<site-menu')
    for (const name of names)
      expect(store.textOf(understood.site.pages.find(({ id }) => understood.pages.some((one) => one.id === id && one.path === `${name}.html`))!.content)).toBe(text(name))
    expect(Object.values(outcomes(understood, store))).toEqual(names.map(() => 'menus'))
    const built = buildAll(understood.site, store)
    // All but the menu is as it was.
    const rest = (html: string) => html.replace(/<(nav|ul)[\s\S]*<\/\1>/, '').replace(/\s+/g, '')
    for (const [path, was] of Object.entries(files)) expect(rest(built.get(path)!)).toBe(rest(was))
  }) // prettier-ignore

  test('what only looks alike, in what each page says, stays with the page', () => {
    const store = new TextStore()
    const files = made(
      (name) =>
        `${header}\n${menu}\n<div id="text">\n<div class="${name === 'rooms' ? 'gallery' : 'words'}">\n${text(name)}\n</div>\n</div>`,
    )
    const understood = bring(files, store)
    expect(source(understood, store)).not.toContain('{slot.')
    const rooms = understood.site.pages.find(({ label }) => label === 'rooms')!
    expect(store.textOf(rooms.content)).toContain('<div class="gallery">')
  })

  test('what runs there, or refers to something, keeps the element each page’s own', () => {
    const store = new TextStore()
    const files = made(
      (name) =>
        `${header}\n${menu}\n<main style="background: url(${name}.png)" class="${name}">\n${text(name)}\n</main>`,
    )
    const understood = bring(files, store)
    expect(source(understood, store)).not.toContain('{slot.')
    const rooms = understood.site.pages.find(({ label }) => label === 'rooms')!
    expect(store.textOf(rooms.content)).toContain('<main style=')
  })
})
