import { describe, expect, test } from '@jest/globals'
import { buildAll, change, testId, TextStore } from '#core/testing'
import { bring } from '../../testing/bringing'

const labels = ['Home', 'Boats', 'Times', 'Fares & dues'] as const
const fileOf = (label: string) =>
  label === 'Home' ? 'index.html' : `${label.split(' ')[0]!.toLowerCase()}.html`
const escaped = (text: string) => text.replace('&', '&amp;')

/** Pages by hand that have the same menu at their top. */
const pagesWith = (menu: (own: string) => string): Record<string, string> =>
  Object.fromEntries(
    labels.map((label) => [
      fileOf(label),
      `<html>
<head><title>${escaped(label)} - Gannet Row</title></head>
<body>
${menu(label)}
<h1>${escaped(label)}</h1>
<p>What is said of ${escaped(label).toLowerCase()}${'.'.repeat(label.length)}</p>
</body>
</html>
`,
    ]),
  )

const entries = (own: string, link: (label: string, href: string) => string, itself: (label: string) => string) =>
  labels.map((label) => (label === own ? itself(escaped(label)) : link(escaped(label), fileOf(label)))) // prettier-ignore

/** Brings a site in; what stands for its menu, and the pages that come out otherwise than they were. */
function broughtIn(files: Record<string, string>, others: Record<string, string> = {}) {
  const store = new TextStore()
  const { site, templates } = bring({ ...files, ...others }, store)
  const source = store.textOf(site.templates[0]!.source)
  expect(templates[0]!.pageIds).toHaveLength(labels.length)
  const built = buildAll(site, store)
  const otherwise = Object.entries(files).filter(([path, html]) => built.get(path) !== html)
  return { source, others: otherwise, built, site, store }
}

describe('menus whose entries are more than links', () => {
  test('in the cells of a row, the page’s own in another colour and in bold', () => {
    const files = pagesWith(
      (own) =>
        `<table bgcolor="#003366"><tr>\n${entries(
          own,
          (label, href) => `  <td bgcolor="#ffffff" class="m"><a href="${href}">${label}</a></td>`,
          (label) => `  <td bgcolor="#ffcc00"><b>${label}</b></td>`,
        ).join('\n')}\n</tr></table>`,
    )
    const { source, others, site, store } = broughtIn(files)
    expect(source).toContain(`<table bgcolor="#003366"><tr>
  <template part="site-menu" levels="1" own="mark" home="first">
    <td bgcolor="#ffffff" class="m"><a href="{entry.address}">{entry.label}</a></td>
    <template which="own"><td bgcolor="#ffcc00"><b>{entry.label}</b></td></template>
  </template>
</tr></table>`)
    // To the byte.
    expect(others).toEqual([])
    // And from now on the menu follows the plan.
    const added = change(site, store, {
      kind: 'addPages',
      parentId: null,
      after: null,
      pages: [{ id: testId(), label: 'Weather' }],
      content: store.put(''),
    })
    expect(buildAll(added, store).get('boats.html')).toContain(
      '  <td bgcolor="#ffffff" class="m"><a href="weather.html">Weather</a></td>\n',
    )
  })

  test('in rows of a table, below words that head them, and with a link to the page itself', () => {
    const files = pagesWith(
      (own) =>
        `<table><tr><th>Where to?</th></tr>${entries(
          own,
          (label, href) => `<tr><td>&raquo; <a href="${href}">${label}</a></td></tr>`,
          (label) => `<tr class="on"><td>&raquo; <a href="${fileOf(own)}">${label}</a></td></tr>`,
        ).join('')}</table>`,
    )
    const { source, others } = broughtIn(files)
    expect(source).toContain(
      '<table><tr><th>Where to?</th></tr><template part="site-menu" levels="1" own="mark" home="first"><tr><td>&raquo; <a href="{entry.address}">{entry.label}</a></td></tr><template which="own"><tr class="on"><td>&raquo; <a href="{entry.address}">{entry.label}</a></td></tr></template></template></table>',
    )
    expect(others).toEqual([])
  })

  test('with something between every two, and entries of several lines', () => {
    const files = pagesWith(
      (own) =>
        `  <div id="menu">\n${entries(
          own,
          (label, href) =>
            `    <span class="entry">\n      <a class="l"\n         href="${href}">${label}</a>\n    </span>`,
          (label) => `    <span class="entry here">${label}</span>`,
        ).join('\n    <i>*</i>\n')}\n  </div>`,
    )
    const { source, others } = broughtIn(files)
    expect(source).toContain('<template which="between"><i>*</i></template>')
    expect(source).toContain('<template which="own"><span class="entry here">{entry.label}</span></template>')
    expect(others).toEqual([])
  })

  test('in lists whose entries are more than links, and whose end tags were left out', () => {
    const files = pagesWith(
      (own) =>
        `<ul class="menu">\n${entries(
          own,
          (label, href) => `<li>&raquo; <a href="${href}" title="Go on">${label}</a>`,
          (label) => `<li>&raquo; <b>${label}</b>`,
        ).join('\n')}\n</ul>`,
    )
    const { source, others } = broughtIn(files)
    expect(source).toContain(
      '<ul class="menu">\n<template part="site-menu" levels="1" own="mark" home="first">\n  <li>&raquo; <a href="{entry.address}" title="Go on">{entry.label}</a>\n  <template which="own"><li>&raquo; <b>{entry.label}</b></template>\n</template>\n</ul>',
    )
    expect(others).toEqual([])
  })

  test('where the page’s own is left out', () => {
    const files = pagesWith(
      (own) =>
        `<div class="bar">${labels
          .filter((label) => label !== own)
          .map((label) => `<div><a href="${fileOf(label)}">${escaped(label)}</a></div>`)
          .join(' ')}</div>`,
    )
    const { source, others } = broughtIn(files)
    expect(source).toContain(
      '<div class="bar"><template part="site-menu" levels="1" own="omit" home="first"><div><a href="{entry.address}">{entry.label}</a></div></template></div>'.replace(
        '"first"><div>',
        '"first"> <div>',
      ),
    )
    expect(others).toEqual([])
  })

  test('with a picture in front of each, which is one of the site’s', () => {
    const files = pagesWith(
      (own) =>
        `<table background="img/sky.gif"><tr>${entries(
          own,
          (label, href) => `<td><img src="img/dot.gif" alt=""><a href="${href}">${label}</a></td>`,
          (label) => `<td><img src="img/here.gif" alt="*"><b>${label}</b></td>`,
        ).join('')}</tr></table>`,
    )
    const pictures = { 'img/dot.gif': 'GIF89a1', 'img/here.gif': 'GIF89a2', 'img/sky.gif': 'GIF89a3' }
    const { source, built } = broughtIn(files, pictures)
    expect(source).toContain(
      '<td><img src="/img/dot.gif" alt=""><a href="{entry.address}">{entry.label}</a></td><template which="own"><td><img src="/img/here.gif"',
    )
    for (const [path, html] of Object.entries(files)) expect(built.get(path)).toBe(html)
  })

  test.each([
    ['has a picture of its own', (label: string) => `<img src="${label}.gif" alt="">`],
    ['has an id of its own', (label: string) => `<b id="${label}"></b>`],
    ['would be read as a value', () => '{year}'],
  ])('an entry that %s is left as it is', (_, odd) => {
    const files = pagesWith(
      (own) =>
        `<table><tr>${entries(
          own,
          (label, href) => `<td>${odd(href)}<a href="${href}">${label}</a></td>`,
          (label) => `<td>${odd(label)}<b>${label}</b></td>`,
        ).join('')}</tr></table>`,
    )
    expect(broughtIn(files).source).not.toContain('part=')
  })

  test('a table of facts with links is no menu', () => {
    const files = Object.fromEntries(
      labels.map((label) => [
        fileOf(label),
        `<html><head><title>${escaped(label)}</title></head><body><h1>${escaped(label)}</h1><table><tr><td><a href="times.html">Times</a></td><td>nine</td></tr><tr><td><a href="boats.html">Boats</a></td><td>${label.length}</td></tr></table></body></html>\n`,
      ]),
    )
    expect(broughtIn(files).source).not.toContain('part=')
  })
})
