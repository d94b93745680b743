import { describe, expect, test } from '@jest/globals'
import { buildSite } from '#core/build'
import { namesOf } from '#core/naming'
import { buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { compileTemplate, contextOf, generatedSignature, generatedWeight } from './index'

const plan = 'Home\n  Visit\n    Tides\n    Ferry & <pier>\n    Map\n  Stay\n  Hidden (not in menus)'

/** A site under a template, some of whose pages say something of themselves. */
function siteWith(source: string, said: Readonly<Record<string, string>> = {}) {
  const store = new TextStore()
  let site = siteFrom(plan, store, 'Home')
  const template = site.templates[0]!
  site = change(site, store, {
    kind: 'setTemplate',
    templateId: template.id,
    source: store.put(source),
    was: template.source,
  })
  for (const [label, description] of Object.entries(said))
    site = change(site, store, {
      kind: 'setPageText',
      pageId: pageCalled(site, label).id,
      field: 'description',
      value: description,
      was: null,
    })
  return { site, store }
}

function rendered(source: string, label: string, said: Readonly<Record<string, string>> = {}): string {
  const { site, store } = siteWith(source, said)
  return buildAll(site, store).get(namesOf(site).pages.get(pageCalled(site, label).id)!.path)!
}

const menuInRow = [
  '<table><tr>',
  '  <template part="site-menu" of="section">',
  '    <td class="m"><a href="{entry.address}">{entry.label}</a></td>',
  '    <template which="own"><td class="here"><b>{entry.label}</b></td></template>',
  '  </template>',
  '</tr></table>',
].join('\n')

describe('a part whose author says how entries are written', () => {
  test('stands once for each of them where the parser of the standard lets nothing of ours stand', () => {
    expect(rendered(menuInRow, 'Ferry & <pier>')).toBe(
      [
        '<table><tr>',
        '  <td class="m"><a href="tides.html">Tides</a></td>',
        '  <td class="here"><b>Ferry &amp; &lt;pier&gt;</b></td>',
        '  <td class="m"><a href="map.html">Map</a></td>',
        '</tr></table>',
        '',
      ].join('\n'),
    )
    expect(rendered(menuInRow, 'Home')).toBe('<table><tr>\n</tr></table>\n')
  })

  test('parts entries by what stands before the first of them, and by what its author says', () => {
    const line = (inside: string) => rendered(`<p>(<template part="site-menu">${inside}</template>)</p>`, 'Home')
    const link = '<a href="{entry.address}">{entry.label}</a>'
    expect(line(link)).toContain('<p>(<a href="visit/index.html">Visit</a><a href="stay.html">Stay</a>)</p>')
    expect(line(` ${link} `)).toContain('</a> <a href="stay')
    expect(line(`<template which="between"> · </template>${link}`)).toContain('</a>·<a href="stay')
    expect(line(` ${link}<template which="between"><i>·</i></template>`)).toContain('</a> <i>·</i> <a href="stay')
  }) // prettier-ignore

  test('nests nothing: pages below pages follow them, each with its level', () => {
    const html = rendered(
      '<nav>\n  <template part="site-menu" levels="all">\n    <a class="level-{entry.level}" href="{entry.address}">{entry.label}</a>\n    <template which="above">\n      <a class="above" href="{entry.address}">{entry.label}</a>\n    </template>\n  </template>\n</nav>',
      'Tides',
    )
    expect(html).toBe(
      [
        '<nav>',
        '  <a class="above" href="index.html">Visit</a>',
        '  <a class="level-2" href="tides.html">Tides</a>',
        '  <a class="level-2" href="ferry-and-pier.html">Ferry &amp; &lt;pier&gt;</a>',
        '  <a class="level-2" href="map.html">Map</a>',
        '  <a class="level-1" href="../stay.html">Stay</a>',
        '</nav>',
        '',
      ].join('\n'),
    )
    expect(html).not.toContain('Hidden')
  })

  test('has what its author says around all of them, and nothing where there are none', () => {
    const source = [
      '<div>',
      '  <template part="page-children">',
      '    <nav>',
      '      <ol>',
      '        <template which="each">',
      '          <li>',
      '            <a href="{entry.address}">{entry.label}</a>',
      '          </li>',
      '        </template>',
      '        <template which="between"><li>or</li></template>',
      '      </ol>',
      '    </nav>',
      '  </template>',
      '</div>',
    ].join('\n')
    expect(rendered(source, 'Home')).toBe('<div>\n</div>\n')
    const entry = (path: string, label: string) =>
      `      <li>\n        <a href="${path}.html">${label}</a>\n      </li>`
    expect(rendered(source, 'Visit')).toBe(
      [
        '<div>',
        '  <nav>',
        '    <ol>',
        [
          entry('tides', 'Tides'),
          entry('ferry-and-pier', 'Ferry &amp; &lt;pier&gt;'),
          entry('map', 'Map'),
        ].join('\n      <li>or</li>\n'),
        '    </ol>',
        '  </nav>',
        '</div>',
        '',
      ].join('\n'),
    )
    const inLine =
      '<p>Below: <template part="page-children">[<template which="own">x</template><template which="each"> <b>{entry.label}</b></template>]</template></p>'
    expect(rendered(inLine, 'Visit')).toBe(
      '<p>Below: [<b>Tides</b> <b>Ferry &amp; &lt;pier&gt;</b> <b>Map</b>]</p>\n',
    )
  })

  test('leaves the page itself out where it is told to', () => {
    const html = rendered('<template part="site-menu" of="section" own="omit"><i>{entry.label}</i></template>', 'Map')
    expect(html).toBe('<i>Tides</i><i>Ferry &amp; &lt;pier&gt;</i>\n')
  }) // prettier-ignore

  test('says what pages say of themselves, and leaves out what would say nothing', () => {
    const cards = [
      '<section>',
      '  <template part="page-children">',
      '    <article title="{entry.description}">',
      '      <h3><a href="{entry.address}">{entry.title}</a></h3>',
      '      <p>{entry.description}</p>',
      '    </article>',
      '  </template>',
      '</section>',
    ].join('\n')
    expect(rendered(cards, 'Visit', { Tides: 'High & "low"' })).toContain(
      [
        '<section>',
        '  <article title="High &amp; &quot;low&quot;">',
        '    <h3><a href="tides.html">Tides</a></h3>',
        '    <p>High &amp; "low"</p>',
        '  </article>',
        '  <article title="">',
        '    <h3><a href="ferry-and-pier.html">Ferry &amp; &lt;pier&gt;</a></h3>',
        '  </article>',
      ].join('\n'),
    )
  })

  test('has references of the template as anywhere, and of values those that are short', () => {
    const html = rendered('<template part="site-menu" of="section"><a href="{entry.address}" lang="{language}"><img src="/dot.gif" alt="">{entry.label}</a></template>', 'Map')
    expect(html).toContain('<a href="tides.html" lang="en"><img src="../dot.gif" alt="">Tides</a>')
  }) // prettier-ignore

  test('a page follows what its entries say: their labels, places, titles and descriptions', () => {
    const source = '<template part="page-children"><p>{entry.description}</p>{entry.title}</template>'
    const before = siteWith(source)
    const signature = ({ site, store }: typeof before) => {
      const context = contextOf(site)
      const [placed] = compileTemplate(store.textOf(site.templates[0]!.source)).generated
      return generatedSignature(context, placed!, pageCalled(site, 'Visit'), (text) => text)
    }
    expect(signature(siteWith(source))).toBe(signature(before))
    expect(signature(siteWith(source, { Tides: 'Twice a day' }))).not.toBe(signature(before))
    const { site, store } = before
    const titled = change(site, store, { kind: 'setPageText', pageId: pageCalled(site, 'Tides').id, field: 'title', value: 'Of tides', was: null })
    expect(signature({ site: titled, store })).not.toBe(signature(before))
  }) // prettier-ignore

  test.each(['1', '2', 'all'])('is the same made for one page as for all of them, %s levels deep', (levels) => {
    const source = `<template part="site-menu" levels="${levels}">\n  <td><img src="/dot.gif" alt=""><a href="{entry.address}">{entry.label}</a></td>\n  <template which="own"><td>{entry.label}</td></template><template which="above"><th>{entry.label}</th></template>\n</template>`
    const { site, store } = siteWith(source)
    const paths = namesOf(site).pages
    const all = buildAll(site, store)
    for (const { id } of site.pages) {
      const { path } = paths.get(id)!
      const build = buildSite({ ...site }, { textOf: store.textOf, factsOf: store.factsOf, year: store.year, publicPath: null })
      expect([path, all.get(path)]).toEqual([path, build.textOf(id)])
    }
    expect(new Set(all.values()).size).toBeGreaterThan(3)
  }) // prettier-ignore

  test('weighs at least what it writes, however often it says the same', () => {
    const source = `<template part="site-menu" levels="all">${'<i>{entry.label}{entry.description}</i>'.repeat(50)}</template>`
    const { site, store } = siteWith(source, { Tides: 'd'.repeat(200) })
    const page = pageCalled(site, 'Home')
    const html = buildAll(site, store).get('index.html')!
    expect(generatedWeight(contextOf(site), compileTemplate(source), page)).toBeGreaterThan(html.length)
    expect(html.length).toBeGreaterThan(10_000)
  })

  test('what it does not know is told where it stands', () => {
    const source =
      '<template part="site-menus" levels="1"><b>{entry.label}</b></template><template part="site-menu" between="|" class="m">{entry.lable}<template which="mine">x</template></template>{entry.label}'
    const { unknown } = compileTemplate(source)
    const told = unknown.map(({ kind, name, start, end }) => [kind, name, source.slice(start, end)])
    expect(told.sort()).toEqual(
      [
        ['attribute', 'between', 'between'],
        ['attribute', 'class', 'class'],
        ['attribute value', 'mine', 'mine'],
        ['part', 'site-menus', 'site-menus'],
        ['value', 'entry.label', 'entry.label'],
        ['value', 'entry.label', 'entry.label'],
        ['value', 'entry.lable', 'entry.lable'],
      ].sort(),
    )
    expect(unknown.find(({ name }) => name === 'entry.lable')!.known).toContain('entry.label')
  })

  test('what would stand there as often as there are entries, however long, does not stand there at all', () => {
    const source =
      '<template part="site-menu"><i title="{title}">{entry.label}{slot.mood}</i><slot>x</slot><site-menu></site-menu>{description}</template>'
    expect(compileTemplate(source).unknown.map(({ kind, name }) => [kind, name])).toEqual([
      ['value', 'title'],
      ['value', 'slot.mood'],
      ['within entries', 'slot'],
      ['within entries', 'site-menu'],
      ['value', 'description'],
    ])
    expect(rendered(source, 'Home')).toBe(
      '<i title="{title}">Visit{slot.mood}</i>{description}<i title="{title}">Stay{slot.mood}</i>{description}\n',
    )
  })

  test('one that does not end, or stands in another, breaks nothing', () => {
    for (const source of [
      '<template part="site-menu"><td>{entry.label}',
      '<template part="site-menu"></template>',
      '<template part="site-menu"><template which="own"></template></template>',
      '<template part="site-menu"><template part="site-menu"><i>{entry.label}</i></template></template>',
      '<template part="site-menu"><site-menu></site-menu><slot></slot></template>',
      '<template part="slot"><slot></slot></template>',
      '<template part="site-menu"><template which="own">never ended</template>',
      '<ul><template part="site-menu"><li>{entry.label}<template which="own"><li>own</template></template></ul>',
      '<template part>x</template>',
      '<template part="site-menu"><template which="each"></template></template>',
      '<template part="site-menu">a<template which="own">b</template>c<template which="each">d</template>e<template which="each">f</template>g</template>',
    ])
      expect(typeof rendered(source, 'Tides')).toBe('string')
  })
})
