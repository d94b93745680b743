import { describe, expect, test } from '@jest/globals'
import { defaultScheme } from '#core/site'
import { asTheyAre, bring, outcomes } from '../testing/bringing'
import { buildAll, TextStore } from '#core/testing'
import { hostFolderIn } from './reading/host-folder'

const page = (label: string, body: string, head = '') => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${label} - Saltings Ferry</title>
<link rel="stylesheet" href="/~anna/css/site.css">
${head}</head>
<body>
<ul><li><a href="/~anna/">Home</a></li><li><a href="/%7Eanna/times.html">Times</a></li><li><a href="/~anna/boats/index.html">Boats</a></li></ul>
<h1>${label}</h1>
${body}
</body>
</html>
`
const filesWith = (head: (path: string) => string = () => '') => ({
  'index.html': page('Home', '<p><a href="/~anna">Top</a> <a href="/~anna/boats/">Boats</a></p>', head('')),
  'times.html': page('Times', '<p><img src="/~anna/img/boat.jpg" alt=""></p>', head('times.html')),
  'boats/index.html': page('Boats', '<p><a href="/~anna/gone.html">gone</a></p>', head('boats/')),
  'boats/tern.html': page(
    'Tern',
    '<p><a href="/club/fees.html">The club</a></p><script>say(\'/club/words.html\')</script>',
    head('boats/tern.html'),
  ),
  'img/boat.jpg': 'JPG',
  'css/site.css': 'body { background: url(/~anna/img/boat.jpg) }',
})

describe('a site that stood in a folder of its host, and names everything from the host’s top', () => {
  test('is understood by what its references have in front', () => {
    const store = new TextStore()
    const understood = bring(filesWith(), store)
    const { site } = understood
    // The menu marks the page's own entry from now on.
    expect(understood.remarks).toContainEqual({
      path: 'index.html',
      why: expect.stringContaining('“/~anna/”'),
    })
    expect(Object.values(outcomes(understood, store))).toEqual(['menus', 'menus', 'menus', 'menus'])
    const source = store.textOf(site.templates[0]!.source)
    expect(source).toContain('href="/css/site.css"')
    expect(source).toContain('<site-menu')
    const built = buildAll(site, store)
    expect(built.get('index.html')).toContain('<a href="./">Top</a> <a href="boats/">Boats</a>')
    expect(built.get('times.html')).toContain('<img src="img/boat.jpg"')
    expect(built.get('css/site.css')).toContain('url(../img/boat.jpg)')
    expect(built.get('boats/index.html')).toContain('<a href="../gone.html">gone</a>')
  })

  test('is understood by the address that it says; what lies beside it on the host is named in full', () => {
    const store = new TextStore()
    const files = filesWith((path) => `<link rel="canonical" href="https://host.example/~anna/${path}">\n`)
    const understood = bring(files, store, { ...asTheyAre, scheme: { ...defaultScheme, extension: '.htm' } })
    const built = buildAll(understood.site, store)
    expect(Object.values(outcomes(understood, store))).toEqual(['menus', 'menus', 'menus', 'menus'])
    expect(built.get('boats/tern.htm')).toContain(
      '<a href="https://host.example/club/fees.html">The club</a>',
    )
    expect(built.get('boats/tern.htm')).toContain('<a href="../times.htm">Times</a>')
    // What only reads like a path in a script stays.
    expect(built.get('boats/tern.htm')).toContain("say('/club/words.html')")
    expect(understood.remarks).toContainEqual({
      path: 'index.html',
      why: expect.stringContaining('“/club/fees.html” lies beside the site'),
    })
  })
})

test('the folder is told by most of what is named, or not at all', () => {
  const of = (html: string, ...others: string[]) =>
    hostFolderIn(
      ['a.html', ...others].map((path) => ({
        ...{ path, kind: 'page' as const, hash: '', sizeBytes: 0 },
        text: path === 'a.html' ? html : '',
      })),
      '',
    )
  const links = (...paths: string[]) => paths.map((path) => `<a href="${path}">x</a>`).join('')
  const three = ['b.html', 'c.html', 'd/e.html']
  expect(of(links('/x/b.html', '/x/c.html', '/x/d/e.html?q#r'), ...three)).toBe('x/')
  expect(of(links('/x/y%20z/b.html', '/x/y z/c.html', '/x/y%20z/d/'), ...three)).toBe('x/y z/')
  // Fewer than three, as many at the top, and most of them something else.
  expect(of(links('/x/b.html', '/x/c.html', '/x/c.html#a'), ...three)).toBe('')
  expect(
    of(links('/x/b.html', '/x/c.html', '/x/d/e.html', '/b.html', '/c.html', '/d/e.html'), ...three),
  ).toBe('')
  expect(of(links('/x/b.html', '/x/c.html', '/x/d/e.html', '/1', '/2', '/3'), ...three)).toBe('')
  expect(of(links('//x/b.html', '//x/c.html', '//x/d/e.html'), ...three)).toBe('')
})
