import { describe, expect, test } from '@jest/globals'
import { buildAll, TextStore } from '#core/testing'
import { bring } from '../../testing/bringing'

const pages = ['Home', 'Boats', 'Times', 'Fares & dues'] as const
const fileOf = (label: string) =>
  label === 'Home' ? 'index.html' : `${label.split(' ')[0]!.toLowerCase()}.html`
const escaped = (text: string) => text.replace('&', '&amp;')
const text: Readonly<Record<string, string>> = {
  Home: '<p>Over the sound since long. See <a href="boats.html">Boats</a>, <a href="times.html">Times</a>.</p>',
  Boats:
    '<p>Two of them.</p>\n<p><a href="times.html">Times</a> | <a href="fares.html">Fares &amp; dues</a></p>',
  Times: '<p>At nine and at four.</p>',
  'Fares & dues':
    '<p>Four crowns, and <a href="index.html">home</a> | <a href="boats.html">Boats</a> for nothing.</p>',
}
/** Pages whose menus are written by hand, each with its own entry told otherwise. */
const site = (around: (label: string, lines: (between: string, own: (label: string) => string, link?: string) => string) => [string, string]) =>
  Object.fromEntries(
    pages.map((label) => {
      const lines = (between: string, own: (label: string) => string, link = '') =>
        pages.map((one) => (one === label ? own(escaped(one)) : `<a${link} href="${fileOf(one)}">${escaped(one)}</a>`)).join(between)
      const [top, foot] = around(label, lines)
      return [fileOf(label), `<!DOCTYPE html>
<html lang="en">
<head><meta charset="utf-8"><title>${escaped(label)} - Gannet Row</title></head>
<body>
${top}
<h1>${escaped(label)}</h1>
${text[label]!}
${foot}
</body>
</html>
`]
    }),
  ) // prettier-ignore

/** Brings a site in; its template, and how its pages come out where that is not as they were. */
function broughtIn(files: Record<string, string>) {
  const store = new TextStore()
  const { site: made, templates } = bring(files, store)
  const source = store.textOf(made.templates[0]!.source)
  expect(templates[0]!.pageIds).toHaveLength(4)
  const built = buildAll(made, store)
  const lines = Object.entries(files).flatMap(([path, html]) => {
    const was = html.split('\n')
    return built
      .get(path)!
      .split('\n')
      .flatMap((line, at) => (line === was[at] ? [] : [line]))
  })
  return { source, built, lines }
}

describe('menus that are lines of links', () => {
  test('in a paragraph like others, between brackets, at the top and at the end, with the page’s own in bold', () => {
    const files = site((_, line) => {
      const menu = `<p>[ ${line(' | ', (own) => `<b>${own}</b>`)} ]</p>`
      return [menu, menu]
    })
    const { source, lines } = broughtIn(files)
    const part =
      '<p>[ <site-menu levels="1" own="mark" home="first" between=" | " mark="b"></site-menu> ]</p>'
    expect(source).toBe(`<!DOCTYPE html>
<html lang="{language}">
<head><meta charset="utf-8"><title>{title}</title></head>
<body>
${part}
<h1>{page}</h1>
<slot name="content"></slot>
${part}
</body>
</html>
`)
    // Nothing but what marks the page's own is otherwise.
    expect(lines).toHaveLength(8)
    const written = new Set(Object.values(files).flatMap((html) => html.split('\n')))
    for (const line of lines) expect(written).toContain(line.replace(' aria-current="page"', ''))
  })

  test('down the side of a table, with words before them, the page’s own in plain words', () => {
    const files = site((_, line) => [
      `<table><tr><td class="side">Gannet Row<br><br>\n${line('<br>\n', (own) => own)}<br>\n<hr></td>\n<td>`,
      '</td></tr></table>',
    ])
    const { source, lines } = broughtIn(files)
    expect(source).toContain(
      '<td class="side">Gannet Row<br><br>\n<site-menu levels="1" own="mark" home="first" between="&lt;br&gt;" mark="span"></site-menu><br>\n<hr></td>',
    )
    expect(lines[0]).toContain('<span aria-current="page">Home</span><br><a href="boats.html">')
  })

  test('with nothing but space between links of one class', () => {
    const files = site((_, line) => [
      `<nav id="top">${line('\n', (own) => `<a class="m">${own}</a>`, ' class="m"')}</nav>`,
      '<p>The keeper</p>',
    ])
    const { source } = broughtIn(files)
    expect(source).toContain(
      '<nav id="top"><site-menu levels="1" own="mark" home="first" between=" " link-class="m"></site-menu></nav>',
    )
  })

  test('that are lists keep the class of their links, and what marks the page’s own', () => {
    const files = site((_, line) => [
      `<ul>\n<li>${line('</li>\n<li>', (own) => `<strong>${own}</strong>`, ' class="m"')}</li>\n</ul>`,
      '<p>The keeper</p>',
    ])
    const { source, lines } = broughtIn(files)
    expect(source).toContain(
      '<site-menu levels="1" own="mark" home="first" as="list" mark="strong" link-class="m"></site-menu>',
    )
    expect(lines.join('\n')).toContain('<li><strong aria-current="page">Home</strong></li>')
  })

  test('that are written today keep the classes that their style sheet goes by', () => {
    const entry = (label: string, own: string) =>
      `<li class="nav-item${own}"><a class="nav-link${own}"${own && ' aria-current="page"'} href="${fileOf(label)}">${escaped(label)}</a></li>`
    const files = site((label) => [
      `<nav class="bar" id="top">\n<ul class="nav">\n${pages.map((one) => entry(one, one === label ? ' active' : '')).join('\n')}\n</ul>\n</nav>`,
      '<p>The keeper</p>',
    ])
    const { source, built } = broughtIn(files)
    expect(source).toContain(
      '<site-menu levels="1" own="mark" home="first" list-class="nav" item-class="nav-item" own-item-class="nav-item active" link-class="nav-link" own-class="nav-link active" class="bar" id="top"></site-menu>',
    )
    // Nothing is otherwise but that a page does not lead to itself.
    const plain = (html: string) => html.replace(/>\s+</g, '><')
    for (const [path, html] of Object.entries(files))
      expect(plain(built.get(path)!)).toBe(plain(html.replace(/(aria-current="page") href="[^"]*"/, '$1')))
  })

  test('that mark their own link by its class alone are found with nothing between', () => {
    const files = site((label) => [
      `<div class="topnav">\n${pages.map((one) => `<a ${one === label ? 'class="active" ' : ''}href="${fileOf(one)}">${escaped(one)}</a>`).join('\n')}\n</div>`,
      '<p>The keeper</p>',
    ])
    const { source, built } = broughtIn(files)
    expect(source).toContain(
      '<div class="topnav">\n<site-menu levels="1" own="mark" home="first" between=" " own-class="active"></site-menu>\n</div>',
    )
    expect(built.get('boats.html')).toContain(
      '<a class="active" aria-current="page">Boats</a> <a href="times.html">',
    )
  })

  test('a trail that the home page is without', () => {
    const files = site((label, line) => [
      `<div id="head">${line(' &middot; ', (own) => `<a href="${fileOf(label)}">${own}</a>`)}</div>${
        label === 'Home' ? '' : `\n<p class="way"><a href="index.html">Home</a> &gt; ${escaped(label)}</p>`
      }`,
      '<p>The keeper</p>',
    ])
    const { source, built } = broughtIn(files)
    expect(source).toContain(
      '<div id="head"><site-menu levels="1" own="mark" home="first" between=" · "></site-menu></div>\n<site-trail between=" &gt; " as="p" mark="span" class="way"></site-trail>\n<h1>',
    )
    expect(built.get('fares.html')).toContain(
      '\n<p class="way"><a href="index.html">Home</a> &gt; <span aria-current="page">Fares &amp; dues</span></p>\n<h1>',
    )
    expect(built.get('index.html')).not.toContain('way')
  })

  test('what the home page has in the place of a trail stays there', () => {
    const files = site((label) => [
      `<div class="way">${label === 'Home' ? 'Welcome aboard' : `<a href="index.html">Home</a> &gt; ${escaped(label)}`}</div>`,
      `<ul class="all">${pages.map((one) => `<li><a href="${fileOf(one)}">${escaped(one)}</a></li>`).join('')}</ul>`,
    ])
    const { source, built } = broughtIn(files)
    expect(source).toContain('<div class="way"><site-trail between=" &gt; " mark="span">')
    expect(built.get('index.html')).toContain('<div class="way">Welcome aboard</div>')
  })

  test('a list that is something else on a page is none, since that would be lost', () => {
    const files = site((label) => [
      `<ol class="way">${label === 'Home' ? '<li>Welcome <img src="x.png" alt=""></li>' : `<li><a href="index.html">Home</a></li><li>${escaped(label)}</li>`}</ol>`,
      `<ul class="all">${pages.map((one) => `<li><a href="${fileOf(one)}">${escaped(one)}</a></li>`).join('')}</ul>`,
    ])
    const { source, built } = broughtIn(files)
    expect(source).not.toContain('<site-trail')
    expect(built.get('index.html')).toContain('Welcome <img')
  })

  test('a line of a menu’s pages with words of its own is none, whatever others call them', () => {
    const files = site((label, line) => [
      `<p class="m">${line(' | ', (own) => `<b>${own}</b>`)}</p>`,
      `<p class="on">${pages.map((one) => (one === label ? `<b>${escaped(one)}</b>` : `<a href="${fileOf(one)}">to ${escaped(one)}</a>`)).join(' - ')}</p>`,
    ])
    const { source } = broughtIn(files)
    expect(source.match(/<site-menu/g)).toHaveLength(1)
    expect(source).toContain('<p class="m"><site-menu')
  })

  test('of any length, with any signs, are read in one go', () => {
    const many = '<a href="index.html">Home</a>|'.repeat(5_000)
    const rows = `${'!'.repeat(400_000)}a${'!'.repeat(400_000)}b`
    const html = (label: string) =>
      `<!DOCTYPE html>\n<title>${label}</title>\n<body>\n<p>${many}</p>\n<p><a href="index.html">Home</a>${rows}</p>\n`
    const files = { 'index.html': html('Home'), 'a.html': html('A') }
    const store = new TextStore()
    const built = buildAll(bring(files, store).site, store)
    expect(built.get('a.html')).toContain(rows)
  })

  test.each([
    ['what each leads to is called otherwise', (line: string) => line.replace('>Times</a>', '>When</a>')],
    ['one page leads to less', (line: string, label: string) => (label === 'Boats' ? line.replace(/<a href="times.html">.*? \| /, '') : line)],
    ['links say more than a part would', (line: string) => line.replaceAll('<a href', '<a target="_top" href')],
    ['pages part them otherwise', (line: string, label: string) => (label === 'Boats' ? line.replaceAll(' | ', ' / ') : line)],
    ['each is a picture', (line: string) => line.replace(/">(\w+)<\/a>/g, '"><img src="x.png" alt="$1"></a>')],
  ])('is none where %s: pages come out to the byte', (_, change) => {
    const files = site((label, line) => [
      `<p class="m">${change(line(' | ', (own) => `<b>${own}</b>`), label)}</p>`,
      '<p>The keeper</p>',
    ])
    const { source, lines } = broughtIn(files)
    expect(source).not.toContain('<site-menu')
    expect(lines).toEqual([])
  }) // prettier-ignore
})
