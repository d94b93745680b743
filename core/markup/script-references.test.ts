import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { applyEdits, readHtml, referencesOfFile, writeReference } from './index'
import { findDataReferences, findScriptReferences } from './script-references'

const told = (code: string) =>
  findScriptReferences(code).map(({ href, holder, ifThere }) => [href, holder, ifThere ?? false])

describe('what a script refers to', () => {
  test('modules and addresses that it names as such', () => {
    const code = `import './tides.js'; import { a } from "../lib/a.mjs"; export * from '/x.js'
      const late = await import('./late.js'); const w = new Worker(new URL('worker.js', import.meta.url))
      import lit from 'lit'`
    expect(told(code)).toEqual([
      ['./tides.js', 'import', false],
      ['../lib/a.mjs', 'import', false],
      ['/x.js', 'import', false],
      ['./late.js', 'import', false],
      ['worker.js', 'new URL()', false],
    ])
  })

  test('strings that read like paths, as long as something stands there', () => {
    const code = `show('img/tern.jpg'); const all = ["a b.png", \`c.gif?x=1\`]; go({ 'd.html': 1 })
      say('No path. At all'); fetch("https://skerry.example/a.json"); url = '//skerry.example/b.js'; x = 'C:\\\\a.gif'`
    expect(told(code)).toEqual([
      ['img/tern.jpg', 'script', true],
      ['a b.png', 'script', true],
      ['c.gif?x=1', 'script', true],
      ['d.html', 'script', true],
      ['https://skerry.example/a.json', 'script', true],
    ])
  })

  test('folders from the top, named for their home pages; a slash by itself is none', () => {
    expect(
      told(`go('/birds/'); a.split('/'); fetch("/birds/terns/?x"); b = 'birds/'; c = '//skerry.example/'`),
    ).toEqual([
      ['/birds/', 'script', true],
      ['/birds/terns/?x', 'script', true],
    ])
  })

  test('not pieces of longer ones, and not what is only compared', () => {
    const code = `a = base + '/img/a.gif'; a += 'b.gif'; if (path === 'c.html' || 'd.html' != path) go()
      if (path.endsWith('e.html') || path.replace('f.html', '')) go(); switch (path) { case 'g.html': }
      h = 'h.gif' + '?' + now; i = \`\${base}/i.gif\``
    expect(told(code)).toEqual([['h.gif', 'script', true]])
  })

  test('comments and patterns are passed over, and one that is no script to the end is read as far as it is one', () => {
    const code = `// don't 'a.gif'\n/* "b.gif" */ if (/'c.gif'/.test(x)) y = 'd.gif'\nz = 'not closed\n w = "e.gif"`
    expect(told(code).map(([href]) => href)).toEqual(['d.gif', 'e.gif'])
  })

  test('escapes are understood, and what takes their place means what is meant in any quotes', () => {
    const path = fc.stringMatching(/^[a-z'"`$\\ é&<]{1,12}\.[a-z]{2,4}$/)
    fc.assert(
      fc.property(fc.constantFrom('"', "'", '`'), path, (quote, next) => {
        const code = `show(${quote}img\\/t\\u0065rn.jpg${quote})`
        const [reference] = findScriptReferences(code)
        expect(reference!.href).toBe('img/tern.jpg')
        const made = applyEdits(code, [{ ...reference!, text: writeReference(reference!, next) }])
        expect(new Function('show', `return ${made}`)((text: string) => text)).toBe(next)
      }),
    )
  })

  test('megabytes of it, however they are nested or left open, in a time that grows with them', () => {
    for (const piece of [
      '(',
      '"a.js",',
      '`${',
      'x="\\',
      "import './a.js';",
      '/a',
      '<!--',
      `"${'x'.repeat(990)}.js"+`,
    ]) {
      const code = piece.repeat(Math.ceil(2_000_000 / piece.length))
      const begun = performance.now()
      findScriptReferences(code)
      expect([piece.slice(0, 20), performance.now() - begun < 10_000]).toEqual([piece.slice(0, 20), true])
    }
    const long = `x = "${'y'.repeat(20_000_000)}"; show('a.gif')`
    expect(() => findScriptReferences(long)).not.toThrow()
  })
})

test('what data refers to; of a manifest, its addresses', () => {
  const manifest =
    '{"name": "Skerry", "start_url": "/", "icons": [{"src": "img\\/a.png", "type": "image/png"}], "more": ["b.html"]}'
  expect(findDataReferences(manifest, true).map(({ href, ifThere }) => [href, ifThere ?? false])).toEqual([
    ['/', false],
    ['img/a.png', false],
    ['b.html', true],
  ])
  expect(findDataReferences('{"b.html": "Say b.html!", "c": "d/e.json"}').map(({ href }) => href)).toEqual([
    'b.html',
    'd/e.json',
  ])
  expect(findDataReferences('{"src": ').length).toBe(0)
})

test('drawings: pictures, links and styles in them; not places of their own', () => {
  const drawing = `<?xml version="1.0"?>\n<svg xmlns:xlink="http://x.example/"><style>a { fill: url(p.svg#x) }</style>
    <image xlink:href="tern.png"/><use href="#a"/><a xlink:href="birds.html"><text fill="url(#b)">x</text></a></svg>`
  const found = referencesOfFile(drawing, 'drawing').map(({ href }) => href)
  expect(found).toEqual(['p.svg#x', 'tern.png', '#a', 'birds.html'])
  expect(referencesOfFile(`${drawing}\ufffd`, 'drawing')).toEqual([])
})

describe('what else a page refers to', () => {
  const inPage = (html: string) => readHtml(html).references.map(({ href, holder }) => [href, holder])

  test('attributes that the standard dropped and browsers follow, and where it sends visitors', () => {
    const html = `<frame src=a.html><table background="b.gif"><tr><td background=c.gif></table><img lowsrc="d.gif" src="e.gif">
      <meta http-equiv=Refresh content="5; URL='f.html'"><meta http-equiv=refresh content=30>`
    expect(inPage(html)).toEqual([
      ['a.html', 'frame src'],
      ['b.gif', 'table background'],
      ['c.gif', 'td background'],
      ['d.gif', 'img lowsrc'],
      ['e.gif', 'img src'],
      ['f.html', 'meta content'],
    ])
    expect(inPage('<html><frameset><frame src=a.html></frameset></html>')).toEqual([['a.html', 'frame src']])
  })

  test('scripts in it, in its handlers and in its addresses, and values that read like paths', () => {
    const html = `<a href="x.html" onmouseover="b.src=&#39;a.gif&#39;; return true">x</a><a href="javascript:show('b.html')">y</a>
      <a href="javascript:show('n%2Ehtml')">n</a><select onchange="location=this.value"><option value="c.html">c</select>
      <script>img = "d.gif"</script><script type="application/json">["e.html"]</script><script type="text/x-tpl">"f.html"</script>
      <img data-large="g.jpg" src=h.jpg>`
    expect(inPage(html).map(([href]) => href)).toEqual([
      'x.html',
      'a.gif',
      'b.html',
      'c.html',
      'd.gif',
      'e.html',
      'g.jpg',
      'h.jpg',
    ])
    const edits = readHtml(html).references.map((one) => ({
      ...one,
      text: writeReference(one, one.href.replace(/\.(\w+)/, '&lt;2.$1')),
    }))
    const made = readHtml(applyEdits(html, edits)).references
    expect(made.map(({ href }) => href)).toEqual(edits.map(({ href }) => href.replace(/\.(\w+)/, '&lt;2.$1')))
  })
})
