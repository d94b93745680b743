import { describe, expect, test } from '@jest/globals'
import { bring } from '../../testing/bringing'
import { buildAll, TextStore } from '#core/testing'

const menu = ['index.html', 'rooms/index.html', 'about.html'] as const
const labels = { 'index.html': 'Home', 'rooms/index.html': 'Rooms', 'about.html': 'About us' } as const

/** A page whose menu marks the entry that leads to it, or to its section. */
function page(label: string, path: string, entry: (isOwn: boolean, isAbove: boolean) => string) {
  const up = path.includes('/') ? '../' : ''
  const entries = menu.map((to) => {
    const isAbove = to !== path && to.startsWith('rooms/') && path.startsWith('rooms/')
    return entry(to === path, isAbove).replace('*', `href="${up}${to}">${labels[to]}`)
  })
  return `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${label} - Seahouse</title>
</head>
<body>
${entries[0]!.startsWith('<li') ? `<ul id="menu">\n${entries.join('\n')}\n</ul>` : `<div class="topnav">\n${entries.join('\n')}\n</div>`}
<main>
<h1>${label}</h1>
<p>${label}, in words.</p>
</main>
</body>
</html>
`
}
const siteWith = (entry: (isOwn: boolean, isAbove: boolean) => string) => ({
  'index.html': page('Home', 'index.html', entry),
  'rooms/index.html': page('Rooms', 'rooms/index.html', entry),
  'rooms/blue.html': page('The blue room', 'rooms/blue.html', entry),
  'rooms/red.html': page('The red room', 'rooms/red.html', entry),
  'about.html': page('About us', 'about.html', entry),
})
function broughtIn(files: Record<string, string>) {
  const store = new TextStore()
  const { site } = bring(files, store)
  return { source: store.textOf(site.templates[0]!.source), built: buildAll(site, store) }
}

describe('a menu that marks the section of a page by a class', () => {
  test('keeps it, on the entry or on its link', () => {
    const { source, built } = broughtIn(
      siteWith((isOwn, isAbove) => {
        const item = isOwn ? ' class="here"' : isAbove ? ' class="section"' : ''
        return `<li${item}><a class="${isAbove ? 'link on' : 'link'}" *</a></li>`
      }),
    )
    expect(source).toContain(
      '<site-menu levels="1" own="mark" home="first" as="list" own-item-class="here" above-item-class="section" link-class="link" above-class="link on" id="menu"></site-menu>',
    )
    expect(built.get('rooms/blue.html')).toContain(
      '<li class="section"><a class="link on" href="index.html" aria-current="true">Rooms</a></li>',
    )
    expect(built.get('rooms/index.html')).toContain(
      '<li><a class="link" href="../about.html">About us</a></li>',
    )
  })

  test('keeps it in a line of links, too; where another link is marked the line stays as each page has it', () => {
    const files = siteWith((isOwn, isAbove) => `<a ${isOwn || isAbove ? 'class="active" ' : ''}*</a>`)
    const { source, built } = broughtIn(files)
    expect(source).toContain(
      '<div class="topnav">\n<site-menu levels="1" own="mark" home="first" between=" " own-class="active" above-class="active"></site-menu>\n</div>',
    )
    expect(built.get('rooms/red.html')).toContain(
      '<a href="../index.html">Home</a> <a class="active" href="index.html" aria-current="true">Rooms</a> <a href="../about.html">',
    )
    const other = Object.fromEntries(
      Object.entries(files).map(([path, html]) => [path, html.replace('<a href', '<a class="new" href')]),
    )
    expect(broughtIn(other).source).not.toContain('<site-menu')
  })

  test('is not thought to where one page of the section does not, or another entry is marked', () => {
    const files = siteWith((isOwn, isAbove) => `<li${isOwn || isAbove ? ' class="on"' : ''}><a *</a></li>`)
    const plain = { ...files, 'rooms/red.html': files['rooms/red.html'].replace(' class="on"', '') }
    const other = {
      ...files,
      'rooms/red.html': files['rooms/red.html']
        .replace(' class="on"', '')
        .replace(/<li>(?=<a href="..\/about)/, '<li class="on">'),
    }
    expect(broughtIn(files).source).toContain(' own-item-class="on" above-item-class="on" ')
    for (const one of [plain, other]) {
      const { source } = broughtIn(one)
      expect(source).toContain(' own-item-class="on" ')
      expect(source).not.toContain('above-item-class')
    }
  })
})
