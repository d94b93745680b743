import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { applyEdits, findCssReferences, indentHtml, readHtml, writeReference } from './index'

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
})

test('indentation leaves alone what white space belongs to', () => {
  expect(indentHtml('<p>a\nb</p>\n\n<pre>\n x\n</pre>\n<p>c</p>', '  ')).toBe(
    '<p>a\n  b</p>\n\n  <pre>\n x\n</pre>\n  <p>c</p>',
  )
  expect(indentHtml('<p title="a\nb">c\nd</p>', '  ')).toBe('<p title="a\nb">c\n  d</p>')
})
