import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type HtmlElement, type HtmlNode, isElement, parseHtml, walkHtml } from '#core/markup'
import { isOfFlow, takes } from './content-models'
import { cleanHtml, fitInto, readsHtmlAt } from './index'

/** Puts a piece where `|` stands, or in the place of what stands between two of them; `|` is where its author goes on. */
function put(marked: string, piece: string): string {
  const start = marked.indexOf('|')
  const last = marked.lastIndexOf('|')
  const text = marked.replaceAll('|', '')
  const fitted = fitInto(text, { start, end: last === start ? start : last - 1 }, piece)
  const made = `${fitted.text.slice(0, fitted.cursor)}|${fitted.text.slice(fitted.cursor)}`
  return text.slice(0, fitted.start) + made + text.slice(fitted.end)
}

const one = '<p>a <b>c</b></p>'
const two = '<p>a</p>\n<p>b</p>'
const list = '<ul>\n  <li>a</li>\n  <li>b</li>\n</ul>'

describe('a piece of HTML is put where it can stand', () => {
  test.each([
    ['one paragraph into another is its words', '<p>x |y</p>', one, '<p>x a <b>c</b>|y</p>'],
    ['in the place of what was chosen', '<p>x |y| z</p>', one, '<p>x a <b>c</b>| z</p>'],
    ['several between the halves of one', '  <p id="i" class="k">x |y</p>', two, '  <p id="i" class="k">x</p>\n  <p>a</p>\n  <p>b</p>|\n  <p class="k">y</p>'],
    ['between those of one that is not closed', '<p>x |y\n<p>z', list, `<p>x\n${list}|\n<p>y\n<p>z`],
    ['in front of one', '<p>|x</p>', two, `${two}|\n<p>x</p>`],
    ['behind one', '<p>x <em>y|</em></p>\n<p>z</p>', two, `<p>x <em>y</em></p>\n${two}|\n<p>z</p>`],
    ['behind one, where words in it are parted', '<p>x <em>y|z</em></p>', two, `<p>x <em>yz</em></p>\n${two}|`],
    ['instead of one that is empty', '<div>\n  <p>|</p>\n</div>', two, '<div>\n  <p>a</p>\n  <p>b</p>|\n</div>'],
    ['instead of all that one says', '<p>|x y|</p>', list, `${list}|`],
    ['in the place of its first words', '<p>|x| y</p>', two, `${two}|\n<p> y</p>`],
    ['in the place of its last words', '<p>x |y|</p>', list, `<p>x </p>\n${list}|`],
    ['instead of a whole one', '|<p>x</p>|', two, `${two}|`],
    ['a heading keeps being one', '<h2>|</h2>', '<p>a</p>', '<h2>a|</h2>'],
    ['a heading in a heading', '<h2>x|</h2>', '<h3>a</h3>', '<h2>xa|</h2>'],
    ['what a heading does not hold', '<h2>x| y</h2>\n', list, `<h2>x y</h2>\n${list}|\n`],
    ['a list into a list', '<ul>\n  <li>x</li>\n  |\n</ul>', list, '<ul>\n  <li>x</li>\n  <li>a</li>\n  <li>b</li>|\n</ul>'],
    ['a paragraph into a list', '<ol>|</ol>', one, '<ol>\n  <li>a <b>c</b></li>|\n</ol>'],
    ['paragraphs into a list', '<ol>\n  <li>x</li>|\n</ol>', two, '<ol>\n  <li>x</li>\n  <li>\n    <p>a</p>\n    <p>b</p>\n  </li>|\n</ol>'],
    ['a list into an entry', '<ul>\n  <li>x|</li>\n</ul>', list, '<ul>\n  <li>x\n    <ul>\n      <li>a</li>\n      <li>b</li>\n    </ul>|\n  </li>\n</ul>'],
    ['a paragraph into an entry', '<li>x |</li>', one, '<li>x a <b>c</b>|</li>'],
    ['a paragraph into an entry of paragraphs', '<li>\n  <p>x</p>|\n</li>', '<p>a</p>', '<li>\n  <p>x</p>\n  <p>a</p>|\n</li>'],
    ['a paragraph into a cell', '<table><tr><td>|</td></tr></table>', one, '<table><tr><td>a <b>c</b>|</td></tr></table>'],
    ['between rows and cells', '<table>\n  <tr>|<td>x</td></tr>\n</table>', two, `<table>\n  <tr><td>x</td></tr>\n</table>\n${two}|`],
    ['between terms', '<dl>|<dt>x</dt></dl>', '<img src="a">', '<dl><dt>x</dt></dl>\n<img src="a">|'],
    ['within a tag', '<p cl|ass="x">y</p>', '<img src="a">', '<p class="x"><img src="a">|y</p>'],
    ['within an end tag', '<p>x</|p>y', list, `<p>x</p>\n${list}|\ny`],
    ['within a comment', '<!-- x | y -->z', one, `<!-- x  y -->\n${one}|\nz`],
    ['within a script', '<script>x|y</script>', one, `<script>xy</script>\n${one}|`],
    ['within a drawing', '<p>x</p>\n<svg><g>|</g></svg>', '<a href="a">a</a>', '<p>x</p>\n<svg><g></g></svg>\n<a href="a">a</a>|'],
    ['lines of source keep their white space', '<div>\n  |\n</div>', '<pre>a\n  b</pre>', '<div>\n  <pre>a\n  b</pre>|\n</div>'],
    ['a link into another', '<p>x <a href="q">y |z</a></p>', 'u <a href="r">v</a>', '<p>x <a href="q">y z</a>u <a href="r">v</a>|</p>'],
    ['into a box on one line', '<div>|</div>', two, '<div>\n  <p>a</p>\n  <p>b</p>|\n</div>'],
    ['into nothing', '|', two, `${two}|`],
    ['words on an empty line between blocks', '<p>x</p>\n|\n<p>y</p>', 'a <b>c</b>', '<p>x</p>\n<p>a <b>c</b>|</p>\n<p>y</p>'],
    ['words on an empty line of a box', '<div>\n  <h2>x</h2>\n  |\n</div>', '<a href="r">v</a>', '<div>\n  <h2>x</h2>\n  <p><a href="r">v</a>|</p>\n</div>'],
    ['words beside words that have no paragraph', 'x\n|\n<p>y</p>', 'a', 'x\na|\n<p>y</p>'],
    ['words on an empty line of an entry', '<ul><li><p>x</p>\n|\n</li></ul>', 'a', '<ul><li><p>x</p>\na|\n</li></ul>'],
    ['words into nothing', '|', 'a', 'a|'],
    ['a picture on an empty line', '<p>x</p>\n|', '<img src="a">', '<p>x</p>\n<img src="a">|'],
    ['nothing', '<p>x|y|z</p>', '', '<p>x|z</p>'],
  ])('%s', (_, marked, piece, expected) => {
    expect(put(marked, piece)).toBe(expected)
  }) // prettier-ignore

  test.each([
    ['<p>x|</p>', true],
    ['|', true],
    ['<p cl|ass>', false],
    ['<!-- | -->', false],
    ['<pre><b>|</b></pre>', false],
    ['<style>|</style>', false],
    ['<p>x</p>\n|<style></style>', true],
  ])('HTML is read as such: %s', (marked, is) => {
    expect(readsHtmlAt(marked.replace('|', ''), marked.indexOf('|'))).toBe(is)
  })

  const { block } = fc.letrec<Record<'words' | 'block', string>>((tie) => {
    const word = fc.constantFrom('x', 'y ', ' z', '<br>', '<img src="p">', '\n', '<!-- n -->')
    const many = (one: fc.Arbitrary<string>) => fc.array(one, { maxLength: 3 }).map((all) => all.join(''))
    const within = (tag: string, inner: fc.Arbitrary<string>) => inner.map((html) => `<${tag}>${html}</${tag}>`)
    const lined = fc.array(tie('block'), { maxLength: 3 }).map((all) => all.map((html) => `\n  ${html}`).join('') + '\n') // prettier-ignore
    const rows = many(within('td', fc.oneof(many(tie('words')), lined)))
    return {
      words: fc.oneof({ depthSize: 'small' }, word, within('em', many(tie('words'))), within('a href="q"', many(word)).map((html) => html.replace('</a href="q">', '</a>'))), // prettier-ignore
      block: fc.oneof(
        { depthSize: 'small' },
        within('p', many(tie('words'))),
        within('h2', many(tie('words'))),
        within('div', lined),
        within('pre', many(word)),
        within('ul', fc.array(within('li', fc.oneof(many(tie('words')), lined)), { minLength: 1, maxLength: 3 }).map((all) => `\n  ${all.join('\n  ')}\n`)),
        within('dl', many(within('dt', many(word)))),
        rows.map((html) => `<table>\n  <tbody><tr>${html}</tr></tbody>\n</table>`),
        fc.constant('<script>x</script>'),
      ),
    }
  }) // prettier-ignore
  const texts = fc.array(block, { maxLength: 4 }).map((all) => all.join('\n'))
  const letters = (html: string) => [...html.replace(/<!--.*?-->|<[^>]*>|\s/g, '')].sort().join('')
  const count = (html: string, tag: RegExp) => html.match(tag)?.length ?? 0

  /** What stands where it may not, by its content model. */
  function misplaced(html: string): string[] {
    const found: string[] = []
    walkHtml(parseHtml(html, false).root, (node) => {
      const holder = 'parentNode' in node ? (node.parentNode as HtmlNode) : null
      if (!holder || !isElement(holder) || !isElement(node)) return
      if (takes(holder) === 'phrasing' && isOfFlow(node)) found.push(`${node.tagName} in ${holder.tagName}`)
      if (isList(holder) && node.tagName !== 'li') found.push(`${node.tagName} in ${holder.tagName}`)
    })
    return found
  }
  const isList = ({ tagName }: HtmlElement) => tagName === 'ul' || tagName === 'ol'

  test('wherever it is wanted in whatever text: nothing is lost, no tag is without its other one, and all stands where it may', () => {
    fc.assert(
      fc.property(texts, texts, fc.nat(), fc.boolean(), fc.constantFrom('', 'w'), (text, from, wanted, isCleaned, chosen) => {
        const start = wanted % (text.length + 1)
        const piece = isCleaned ? cleanHtml(from) : from
        const now = text.slice(0, start) + chosen + text.slice(start)
        const fitted = fitInto(now, { start, end: start + chosen.length }, piece)
        const made = now.slice(0, fitted.start) + fitted.text + now.slice(fitted.end)
        expect(letters(made)).toBe(letters(text + piece))
        expect(count(made, /<(img|script|td|a|em)\b/g)).toBe(count(text + piece, /<(img|script|td|a|em)\b/g))
        expect(parseHtml(made, false).isPlain).toBe(parseHtml(text, false).isPlain && parseHtml(piece, false).isPlain)
        expect(misplaced(made)).toEqual([])
        if (chosen === '') expect(fitted.text.slice(fitted.cursor).trim()).toMatch(/^(<p[^>]*>)?$/)
      }),
      { numRuns: 1_500 },
    )
  }) // prettier-ignore

  test('in a text of any letters nothing breaks, and nothing is lost', () => {
    const odd = fc.constantFrom('<p', '>', '</p>', '<ul>', '<li>', '<b>', '</i>', '<table>', 'x', '<!--', '-->', '<script>', '"', '<td', '<svg>', '</ul>') // prettier-ignore
    fc.assert(
      fc.property(fc.array(odd, { maxLength: 12 }), fc.nat(), (all, wanted) => {
        const text = all.join('')
        const start = wanted % (text.length + 1)
        const fitted = fitInto(text, { start, end: start }, two)
        expect(fitted.start).toBeGreaterThanOrEqual(0)
        expect(fitted.end).toBeGreaterThanOrEqual(fitted.start)
        const replaced = text.slice(fitted.start, fitted.end)
        expect(replaced.replace(/<\/?p[^>]*>/g, '').trim()).toBe('')
        expect(fitted.text).toContain('<p>b</p>')
      }),
      { numRuns: 1_500 },
    )
  })

  test('a text of 200,000 open tags, or of as many beside one another, takes no longer than its parsing', () => {
    for (const text of ['<b>'.repeat(20_000), '<p>x</p>'.repeat(60_000), '<tr><td>'.repeat(20_000)]) {
      const fitted = fitInto(text, { start: text.length, end: text.length }, two)
      expect(fitted.text).toContain('<p>b</p>')
    }
  })
})
