import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import {
  fixedIn,
  applyEdits,
  findCssReferences,
  findStyleFaults,
  indentEdits,
  readHtml,
  readToPlace,
  trimmedRange,
  writeReference,
} from './index'

/** Replaces every reference of a text and reads it again. */
const replaceAll = (html: string, href: string) =>
  applyEdits(
    html,
    readHtml(html).references.map((one) => ({
      start: one.start,
      end: one.end,
      text: writeReference(one, href),
    })),
  )

describe('references in HTML', () => {
  test('are found wherever the standard puts a URL, and nowhere else', () => {
    const html = `<a href=a.html title="b.html">x</a><img alt='' src = ' c.png ' srcset="d.png 1x, e.png 2x">
<video poster=f.png><source src="g.mp4"></video><p style="background: url( 'h.png' )">href="no.html"</p>
<!-- <a href="no.html"> --><style>@import "i.css"; p { background: url(j.png) }</style><script>var a = '<a href="no.html">'</script>
<svg><use href="#k"/><image xlink:href="l.svg"/></svg><template><a href="m.html">m</a></template><a>none</a><a href>empty</a>`
    const hrefs = readHtml(html).references.map((one) => one.href)
    expect(hrefs).toEqual([
      'a.html',
      'c.png',
      'd.png',
      'e.png',
      'f.png',
      'g.mp4',
      'h.png',
      'i.css',
      'j.png',
      '#k',
      'l.svg',
      'm.html',
    ])
  })

  test('a replaced one is read back the same, and nothing else changes', () => {
    const html = `<a href=a>x</a>  <A HREF='b'>y</A><img srcset="c 1x, d 2x"><p style="background:url(e)">&amp;</p>`
    fc.assert(
      fc.property(
        fc.constantFrom('../x.html', 'a&b;c.html', "it's", 'x"y', 'ä.html#é', 'a&amp=1'),
        (href) => {
          const next = replaceAll(html, href)
          const attributes = readHtml(next).references.filter((one) => one.syntax.includes('attribute'))
          expect(attributes.map((one) => one.href)).toEqual([href, href])
          expect(next.replace(/href=[^>]*>|HREF=[^>]*>|srcset="[^"]*"|style="[^"]*"/g, '')).toBe(
            '<a x</a>  <A y</A><img ><p >&amp;</p>',
          )
        },
      ),
    )
  })

  test.each(['<p>one</p>\n<p>two <a href="b.html>three</a> four</p>\n</body>\n', '<script>a < b</script>\n<p>two <a href="x" ', '<b>x</b>\n<p>two </a'])('a tag that does not end is told where it begins: %s', (text) => {
    const [error] = readHtml(text).errors.filter(({ code }) => code === 'eof-in-tag')
    expect([error!.line, error!.column, error!.start]).toEqual([2, 8, text.search(/<\/?a/)])
    expect(error!.piece).toContain('two')
  }) // prettier-ignore

  test('errors carry the standard’s name and a place', () => {
    expect(readHtml('<p>ok</p>\n<p class="a" class="b">x</p></em>').errors).toMatchObject([
      { code: 'duplicate-attribute', line: 2 },
    ])
  })
})

test('references in CSS: urls and imports, strings elsewhere left alone', () => {
  const css =
    '@import url("a.css") screen; @font-face { src: url(b.woff2) } p::before { content: "no.png"; --x: url( c.png ) }'
  const found = findCssReferences(css)
  expect(found.map((one) => css.slice(one.start, one.end))).toEqual(['a.css', 'b.woff2', 'c.png'])
  const nested = '.a { .b { c: url(1.png) } > p { d: url(2.png) } a:hover { e: url(3.png) } f: url(4.png); @media print { i { g: url(5.png) } } }'
  expect(findCssReferences(nested).map(({ href }) => href)).toEqual(['1.png', '2.png', '3.png', '4.png', '5.png'])
}) // prettier-ignore

test('faults of CSS are what browsers pass over, and nothing that they know', () => {
  const of = (css: string) => findStyleFaults(css).map(({ kind, start, end }) => `${kind} ${css.slice(start, end).trim()}`)
  const known = [
    '.a { b { color: red } &:hover { top: 0 } > i { left: 0 } .c & { top: 1px } color: blue }',
    '.a { --x: { y: z }; --empty:; color: var(--x) }',
    '@font-face { font-family: A; src: url(a.woff2) format("woff2"); font-display: swap; size-adjust: 90% }',
    '@page :first { size: A4 landscape; margin: 1cm } @view-transition { navigation: auto }',
    '@property --x { syntax: "<color>"; inherits: true; initial-value: red }',
    '@media (width >= 40em) { a { @supports (display: grid) { color: red } } } @layer a, b; @container x (width > 1px) { i { top: 0 } }',
  ]
  for (const css of known) expect([css, of(css)]).toEqual([css, []])
  expect(of('a { colour: red; b { colr: red } }')).toEqual(['unknown-property colour', 'unknown-property colr'])
  expect(of('@font-face { source: url(a.woff2) }')).toEqual(['unknown-property source'])
  expect(of('a { color: 3px } b { top 3px; left: 0 }')).toEqual(['unknown-value color: 3px', expect.stringMatching(/^syntax /)])
}) // prettier-ignore

const indentHtml = (html: string, indent: string) =>
  applyEdits(
    html,
    indentEdits(html, { start: 0, end: html.length }, readHtml(html).fixed, (lead) => indent + lead),
  )

test('indentation leaves alone what white space belongs to', () => {
  expect(indentHtml('<p>a\nb</p>\n\n<pre>\n x\n</pre>\n<p>c</p>', '  ')).toBe(
    '<p>a\n  b</p>\n\n  <pre>\n x\n</pre>\n  <p>c</p>',
  )
  expect(indentHtml('<p title="a\nb">c\nd</p>', '  ')).toBe('<p title="a\nb">c\n  d</p>')
})

test('what stands at either end is taken off without the first line’s indentation', () => {
  const cut = (text: string) => {
    const { start, end } = trimmedRange(text)
    return text.slice(start, end)
  }
  expect(cut('\n \n  <p>a</p>\n\n')).toBe('  <p>a</p>')
  expect(cut('  x ')).toBe('  x')
  expect(cut(' \n ')).toBe('')
})

describe('references written with character references', () => {
  const replaced = (html: string, href: string) => replaceAll(html, href)

  test('are found in srcset and style, at their places in the source', () => {
    const html = `<img srcset="a&amp;b.png 1x, c.png 2x"><p style="background: url(&quot;h.png&quot;)"><i style='background:url(&#39;&#x69;.png&#39;)'>`
    expect(readHtml(html).references.map((one) => [one.href, html.slice(one.start, one.end)])).toEqual([
      ['a&b.png', 'a&amp;b.png'],
      ['c.png', 'c.png'],
      ['h.png', 'h.png'],
      ['i.png', '&#x69;.png'],
    ])
  })

  test.each(['x.png', "it's.png", 'a"b.png', 'a&copy.png', 'a b.png'])(
    'are rewritten to %s so that it is read back',
    (href) => {
      for (const html of [
        `<p style="background: url(&quot;h.png&quot;)">`,
        `<p style='background: url("h.png")'>`,
        `<p style=background:url(h.png)>`,
        `<p style="background: url(h.png)">`,
      ])
        expect(readHtml(replaced(html, href)).references.map((one) => one.href)).toEqual([href])
    },
  )

  test('a name without semicolon is one where the standard takes it for one', () => {
    const hrefs = ['?a&copy=1', '?a&copy', '?a&notit;', '?a&amp;b', '?a&#0;'].map(
      (value) => readHtml(`<img srcset="${value}">`).references[0]?.href,
    )
    expect(hrefs).toEqual(['?a&copy=1', '?a©', '?a&notit;', '?a&b', '?a\ufffd'])
  })
})

test('a base address is told, since it would lead every reference elsewhere', () => {
  const html = '<base target="_top"><base href="/x/">'
  expect(readHtml(html).bases.map(({ start, end }) => html.slice(start, end))).toEqual(['<base href="/x/">'])
})

test('what a parser makes again of a link that is not closed is read once', () => {
  const text = '<p><a id="x" href="/a.html" style="background:url(b.png)">x<p>y<p>z'
  const { references, ids } = readHtml(text)
  expect(references.map(({ href }) => href)).toEqual(['/a.html', 'b.png'])
  expect(ids).toEqual(['x'])
})

test('what is read to place a text is what reading it for all yields', () => {
  const piece = fc.constantFrom('<p>', '<a href="x.html">x</a>', '<base href="/y/">', '<pre>\n a\n', '</pre>', '<img src=z.gif srcset="a 1x,b 2x"\n alt>', '<b>', '<p style="background:url(q)">', '\n', '<!DOCTYPE html><html>') // prettier-ignore
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 20 }), (pieces) => {
      const html = pieces.join('')
      const { references, fixed, bases, size } = readHtml(html)
      expect(readToPlace(html)).toMatchObject({ references, fixed, bases, size })
    }),
    { numRuns: 300 },
  )
})

test('where white space counts is the same with and without parsing', () => {
  const piece = fc.constantFrom('<p ', '<a title="x', '"', "'", '=', '\n', ' ', '>', 'b', '<pre>', '</pre>', '<!-- ', '-->', '<i a\n=\nb>', '<P\nclass=x\n>', "title='a", '<textarea') // prettier-ignore
  let some = 0
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 25 }), (pieces) => {
      const { fixed } = readToPlace(pieces.join(''))
      if (fixed.length > 0) some++
      expect(fixedIn(pieces.join(''))).toEqual(fixed)
    }),
    { numRuns: 300 },
  )
  expect(some).toBeGreaterThan(10)
})

test('attributes of a tag that makes no element are read where they stand', () => {
  const html =
    '<head><slot></slot><title>x</title></head><body background="a.png" onload="go(\'b.html\')"><a href="c.html">c</a><body background="d.png">'
  const { references } = readHtml(html, true)
  expect(references.map(({ start, end }) => html.slice(start, end))).toEqual([
    'a.png',
    'b.html',
    'c.html',
    'd.png',
  ])
  const plain = '<body background="a.png"><a href="c.html">c</a>'
  expect(readHtml(plain, true).references.map(({ href }) => href)).toEqual(['a.png', 'c.html'])
})

test('what is shown without programs or frames is read, and a piece of a page of frames', () => {
  const hrefs = (text: string, whole: boolean) => readHtml(text, whole).references.map(({ href, start, end }) => [href, text.slice(start, end)]) // prettier-ignore
  const within =
    '<noscript><img src="a.png"><p style="background: url(b.png)">x</noscript><noframes><a href=c.html>x</a></noframes>'
  const all = ['a.png', 'b.png', 'c.html'].map((href) => [href, href])
  expect(hrefs(`<p>x</p>${within}`, false)).toEqual(all)
  expect(hrefs(`<!doctype html><body>${within}`, true)).toEqual(all)
  // One that is not closed holds the rest, and is read once.
  expect(hrefs('<noscript><a href=a.html><noframes>'.repeat(2_000), false)).toEqual([['a.html', 'a.html']])
  const frames = '<frameset cols="20,*"><frame src="menu.html"><frame src="text.html"></frameset>'
  expect(hrefs(frames, false)).toEqual(hrefs(`<html>${frames}</html>`, true))
  expect(hrefs(frames, false).map(([href]) => href)).toEqual(['menu.html', 'text.html'])
  expect(hrefs('<body background="sea.png"><p>x', false)).toEqual([['sea.png', 'sea.png']])
  expect(readHtml('<h2>a <a name="b"></a></h2><h4>a</h4><a name=d></a>\n<h3>e</h3><a name=f>g</a><h3>h</h3>').headings.map(({ id }) => id)).toEqual(['b', null, 'd', null]) // prettier-ignore
})
