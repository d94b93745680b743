import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { parseAny, parseHtml } from '../parse'
import { findTagFaults } from '../tags'
import { attributeValueRange, type HtmlNode, type Span, walkHtml } from '../tree'

/** A tree with all that is known of it, a line a node. */
function written(root: HtmlNode): string[] {
  const lines: string[] = []
  const span = (at: Span | null | undefined) => (at ? `${at.startOffset}-${at.endOffset}` : '?')
  const stack: { node: HtmlNode; depth: number; parent: HtmlNode | null }[] = [
    { node: root, depth: 0, parent: null },
  ]
  while (stack.length > 0) {
    const { node, depth, parent } = stack.pop()!
    const told: string[] = [node.nodeName]
    if ('parentNode' in node && node.parentNode !== parent) told.push('BY ANOTHER PARENT')
    if ('mode' in node) told.push(node.mode)
    if ('value' in node) told.push(JSON.stringify(node.value))
    if ('data' in node) told.push(JSON.stringify(node.data))
    if ('publicId' in node) told.push(node.name, node.publicId, node.systemId)
    if ('tagName' in node) {
      const { tagName, namespaceURI, attrs, sourceCodeLocation: place } = node
      told.push(tagName, namespaceURI, span(place?.startTag), span(place?.endTag))
      for (const { name, value, prefix, namespace, at } of attrs)
        told.push(`${prefix}:${name}@${namespace}=${JSON.stringify(value)} ${span(at)}`)
    }
    if ('sourceCodeLocation' in node) told.push(span(node.sourceCodeLocation))
    lines.push(`${depth} ${told.join(' ')}`)
    const children = 'content' in node ? node.content.childNodes : 'childNodes' in node ? node.childNodes : []
    for (const child of [...children].reverse())
      stack.push({ node: child, depth: depth + 1, parent: 'content' in node ? node.content : node })
  }
  return lines
}

/** Holds what is made of a text against what the whole parser makes of it. */
function expectAlike(text: string, whole: boolean): boolean {
  const parsed = parseHtml(text, whole)
  if (!parsed.isPlain) return false
  walkHtml(parsed.root, (node) => {
    if (!('tagName' in node)) return
    for (const { at } of node.attrs) {
      const { startOffset, endOffset } = at!
      expect(attributeValueRange(text, at!)).toEqual(attributeValueRange(text, { startOffset, endOffset }))
    }
  })
  const wanted = parseAny(text, whole)
  expect(written(parsed.root)).toEqual(written(wanted.root))
  expect(parsed.errors).toEqual(wanted.errors)
  expect(parsed.errorCount).toBe(wanted.errorCount)
  expect(wanted.added).toEqual([])
  expect(findTagFaults(text)).toEqual([])
  return true
}

const isPlain = (text: string, whole = false) => expectAlike(text, whole)

const page = (head: string, body: string) =>
  `<!DOCTYPE html>\n<html lang="en">\n<head>\n${head}\n</head>\n<body>\n${body}\n</body>\n</html>\n`

test('what careful authors write is plain', () => {
  expect(isPlain(page('<meta charset="utf-8">\n<title>Tides &amp; winds</title>\n<link rel=stylesheet href="a.css">\n<style>a > b {}</style>\n<script src="a.js"></script>\n<noscript><p>x</noscript>', '<p>Wind'), true)).toBe(true)
  for (const body of [
    'Text & <b>bold</b> R&D &eacute;&#233;&#xE9; a&b <a href="?a=1&b=2&amp;c=3">x</a>',
    '<p>One<p>Two<ul><li>a<li>b<ul><li>c</ul><li>d</ul><dl><dt>x<dd>y<dt>z</dl><hr><h2>x</h2>',
    '<table><caption>t</caption><colgroup><col><col></colgroup><thead><tr><th>a<th>b</thead><tbody><tr><td>1</td><td>2</td></tr></tbody></table>',
    '<table>\n<tr>\n<td>1\n<td><table><tr><td>x</table>\n</table>',
    '<table><col><tr><td><p>a</td></tr><tr><td>b</table>',
    '<pre>\n  x\n</pre><pre>\nx</pre><pre>\n</pre><pre>\n\n</pre><textarea>\n x &lt;</textarea><textarea>\n</textarea>',
    '<select><option>a<option>b<optgroup label=x><option>c</optgroup><optgroup><option>d</select><datalist><option value=a><option value=b></datalist>',
    '<svg viewBox="0 0 1 1" xlink:href="#a"><title>Lamp</title><linearGradient/><path d="M0 0"/><g><use xlink:href="#b"></use></g></svg>',
    '<ruby>a<rp>(<rt>b<rp>)</ruby><button><i>x</i></button><form><label>x <input></label></form><object data=x><p>y</object>',
    '<!-- a > b --><iframe src=x><p></iframe><ARTICLE CLASS=Ab Data-X>x</Article><my-part a-b="1">y</my-part>',
    '<input disabled value=\'a "b"\'/><br/><img src=a.png alt = "x"><script>if (a < b && "</p>") x()</script>',
  ]) {
    expect([body, isPlain(body)]).toEqual([body, true])
    expect([body, isPlain(page('<title>x</title>', body), true)]).toEqual([body, true])
  }
  for (const doctype of ['', '<?xml version="1.0"?>\n<!DOCTYPE html>', '<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN">', '<!doctype html SYSTEM "about:legacy-compat">', '<!-- x -->\n<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Strict//EN" "http://www.w3.org/TR/xhtml1/DTD/xhtml1-strict.dtd"> <!-- y -->'])
    expect(isPlain(`${doctype}<html><!-- z --><head><title>x</title></head> <body><table><tr><td>x</table></body> <!-- a --></html>\n<!-- b -->\n`, true)).toBe(true)
}) // prettier-ignore

test('what is not is left to the whole parser', () => {
  for (const text of [
    '<b><i>x</b></i>', '</p>', '<p>a</div>', '<a><a>', '<div>', '<div/>', '<table>x</table>', '<td>x</td>', '<h2><h3></h3></h2>',
    '<p title=a title=b>', '<p a="b"c>', '<p a=b"c>', '< p>', '</ p>', '<!x>', '<?x?>', '<!-- a -- b --!>', '<!-->', 'a&copy b',
    '&nosuch;', '&#0;', '&#x80;', '&#xD800;', 'a\0b', 'a\u0080b', 'a\rb', '\ud800', '\ufffe', '<a href="?a&copy=2">', '<svg><p></svg>',
    '<math></math>', '<template></template>', '<form><form></form></form>', '<script><!-- <script> --></script>', '<title>x', '<span><p>x</span>',
    '<b><p>x</b></p>', '<body>', '<select><p></select>', '<nobr><nobr>', '<frameset></frameset>', '<plaintext>', '<p', '<p a="', '<!--',
  ])
    expect([text, parseHtml(text, false).isPlain]).toEqual([text, false])
  for (const text of [
    '<p>x', '<!doctype html><p>x', 'x<html><head></head><body></body></html>', '<html><table></table></html>', '<!doctype html><html><body>x</body></html>', '<!doctype html><html><head></head><body></body>x</html>',
    '<!doctype html><html><head><p></head><body></body></html>', '<!doctype html><html><head></head><title></title><body></body></html>',
    '<!doctype html><html><head></head><body></body><html a=b></html>', '<!doctype html><html><head></head></html>',
    '<!doctype html><html><head></head><body><div></body></html>',
  ])
    expect([text, parseHtml(text, true).isPlain]).toEqual([text, false])
}) // prettier-ignore

/** Pieces of pages, with room for others. */
const holders = ['<div>@</div>', '<p>@</p>', '<p>@', '<p class="a">\n@\n</p>', '<b>@</b>', '<a href="x.html?a&amp;b">@</a>', '<ul><li>@<li>@</ul>', '<ul>\n<li>@</li>\n</ul>', '<ol><li><p>@</ol>', '<dl><dt>@<dd>@</dl>', '<table><tr><td>@</table>', '<table>\n<thead><tr><th>@</th></tr></thead>\n<tr><td>@<td>@</table>', '<table><caption>@</caption><tbody><tr><td>@</td></tr></tbody></table>', '<h2>@</h2>', '<span>@</span>', '<em>@</em>', '<blockquote>@</blockquote>', '<form>@</form>', '<button>@</button>', '<label>@</label>', '<pre>\n@</pre>', '<section id=s>@</section>', '<object>@</object>', '<ruby>@<rt>@</ruby>', '<figure>@<figcaption>@</figcaption></figure>', '<my-el>@</my-el>', '<select><option>@<option>@</select>', '<svg><g>@</g></svg>', '<center>@</center>', '<font color=red>@</font>', '@@', '@ @', '<code>@</code>', '<nav>@</nav>', '<address>@</address>', '<td>@</td>', '<tr>@</tr>', '<tbody>@'] // prettier-ignore
const leaves = ['x', 'a b\n', '', ' \n', '&amp;', 'é😀', '<br>', '<hr>', '<img src="a.png" alt=\'b\'>', '<input type=hidden>', '<!-- c -->', '<script>a < b</script>', '<style>b{}</style>', '<textarea>\na</textarea>', '<title>t</title>', '<svg><path d="M0"/></svg>', '<iframe></iframe>', '<link rel=x>', '<wbr/>', '&copy', 'a & b', '</p>', '</li>', '<td>', '<tr>', '</table>', '<p>', '<li>', '</b>', '<dd>', '<option>', '<col>', '</div>', '<body>', '</body>', '</html>', '<html a=b>', '<template>', '<math>', '\n\n', '<select>', '</select>', '<svg>', '</svg>', '<a>', '<noscript>x</noscript>'] // prettier-ignore

const someText = fc.letrec<{ text: string }>((tie) => ({
  text: fc.oneof(
    { depthSize: 'medium', withCrossShrink: true, maxDepth: 6 },
    fc.nat(leaves.length * 3).map((at) => leaves[at] ?? leaves[at % 19]!),
    fc
      .tuple(fc.constantFrom(...holders), tie('text'), tie('text'))
      .map(([holder, a, b]) => holder.replace('@', () => a).replace('@', () => b)),
  ),
})).text

test('any text that is plain has the tree that the whole parser gives it, to the place', () => {
  let [all, plain] = [0, 0]
  const heads = fc.constantFrom('', '<title>x &lt; y</title>', '<meta charset=utf-8>\n<!-- h -->', '<base href="x">', '<p>') // prettier-ignore
  const texts = fc.oneof(
    fc.array(someText, { maxLength: 4 }).map((some) => ({ text: some.join(''), whole: false })),
    fc.tuple(heads, someText).map(([head, body]) => ({ text: page(head, body), whole: true })),
  )
  fc.assert(
    fc.property(texts, ({ text, whole }) => {
      all++
      if (expectAlike(text, whole)) plain++
    }),
    { numRuns: 3_000 },
  )
  // Otherwise it is held against nothing.
  expect(plain / all).toBeGreaterThan(0.3)
})

test('a text with one letter changed somewhere is read as the whole parser does', () => {
  const text = page(
    '<title>Tides</title>',
    '<p>One &amp; <a href="b.html" class=\'c\'>two</a><ul>\n<li>x<li>y</ul><table><tr><td>1<td>2</table><svg><path d="M1"/></svg><!-- z -->',
  )
  const letters = fc.constantFrom('<', '>', '/', '"', "'", '=', ' ', '\n', '&', '!', '-', 'a', 'p', 'td', '\0', '\f', '\r', ';', '#') // prettier-ignore
  fc.assert(
    fc.property(fc.nat(text.length), fc.nat(2), letters, (at, removed, letter) => {
      expectAlike(text.slice(0, at) + letter + text.slice(at + removed), true)
    }),
    { numRuns: 3_000 },
  )
})
