import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { findIn, finderOf, foundLines, replaceIn, type TextKind, type Wanted } from './index'

const longest = 60_000

const wanted = (words: string, more: Partial<Wanted> = {}): Wanted => ({
  words,
  isExact: false,
  isWhole: false,
  inSource: false,
  ...more,
})
const found = (text: string, words: string, more: Partial<Wanted> = {}, kind: TextKind = 'html') =>
  findIn(text, kind, wanted(words, more), 9).lines.map((line) => line.found)

describe('words are found', () => {
  test.each([
    ['whatever their letters', 'Tide and TIDES', 'tide', {}, ['Tide', 'TIDE']],
    ['by their letters', 'Tide and tide', 'Tide', { isExact: true }, ['Tide']],
    ['by themselves', 'tides, tide; ebb-tide, tide2 Tide', 'tide', { isWhole: true }, ['tide', 'tide', 'Tide']],
    ['in other scripts', 'Ебб и ебб, ёбб', 'ебб', { isWhole: true }, ['Ебб', 'ебб']],
    ['over the ends of lines', '<p>High\n   water, high&nbsp;water</p>', 'high water', {}, ['High water', 'high&nbsp;water']],
    ['however signs are written', 'Tom &amp; I, Tom & I, “Tom’s”, Tom&rsquo;s', 'tom & i', {}, ['Tom &amp; I', 'Tom & I']],
    ['with any apostrophe', 'Tom’s and Tom\'s and Tom&rsquo;s', "Tom's", {}, ['Tom’s', "Tom's", 'Tom&rsquo;s']],
    ['however letters are written', 'Küste, K&uuml;ste, K&#252;STE, k&#xdC;ste, K&Uuml;STE, Kuste', 'küste', {}, ['Küste', 'K&uuml;ste', 'K&#252;STE', 'k&#xdC;ste', 'K&Uuml;STE']],
    ['composed of others', 'Ku\u0308ste, Kuste', 'küste', { isWhole: true }, ['Ku\u0308ste']],
    ['and not within words that are written so', '&uuml;ber ber ber&eacute; ber&nbsp;&ndash; &laquo;ber&raquo; &#252;ber', 'ber', { isWhole: true }, ['ber', 'ber', 'ber']],
    ['by their letters in references, too', 'K&uuml;ste K&Uuml;ste', 'Küste', { isExact: true }, ['K&uuml;ste']],
    ['with signs that mean something elsewhere', 'a.c abc (a.c) [x]', 'a.c', {}, ['a.c', 'a.c']],
    ['with signs alone', 'Price: 5 €, 15 €', '5 €', { isWhole: true }, ['5 €']],
    ['none within another', 'aaaa', 'aa', {}, ['aa', 'aa']],
    ['and nothing where nothing is asked', 'a b', '  ', {}, []],
  ] as const)('%s', (_, text, words, more, expected) => {
    expect(found(text, words, more)).toEqual(expected)
  }) // prettier-ignore

  const page =
    '<p class="tide" title="The tide">Tide <a href="/tide.html">tides</a></p>\n<!-- tide -->\n<style>.tide { top: 0 }</style><script>let tide</script><img src="tide.png" alt="A tide">'
  test('in what visitors read and hear; in the rest of the source only where that is asked', () => {
    expect(findIn(page, 'html', wanted('tide'), 9).lines.map(({ before }) => before.slice(-8))).toEqual([
      'le="The ',
      'e tide">',
      'e.html">',
      ' alt="A ',
    ])
    expect(findIn(page, 'html', wanted('tide', { inSource: true }), 9).count).toBe(10)
    expect(findIn('.tide {}', 'source', wanted('tide'), 9).count).toBe(0)
    expect(findIn('.tide {}', 'source', wanted('tide', { inSource: true }), 9).count).toBe(1)
    expect(findIn('High <tide>', 'words', wanted('tide'), 9).count).toBe(1)
    const whole = '<!doctype html><html><head><title>Tides</title><meta name="description" content="Of tides"><meta name="x" content="tides"></head><body>tides</body></html>'
    expect(findIn(whole, 'html', wanted('tides'), 9).count).toBe(3)
  }) // prettier-ignore

  test('with their lines, and as much around them as fits', () => {
    const text = `first\n  ${'x'.repeat(90)} high\nwater ${'y'.repeat(90)}\n`
    const [line, ...more] = foundLines(text, finderOf(wanted('high water'))!(text))
    expect(more).toEqual([])
    expect(line).toEqual({
      line: 2,
      before: `…${'x'.repeat(59)} `,
      found: 'high water',
      after: ` ${'y'.repeat(59)}…`,
    })
  })
})

describe('what is put in the place of words', () => {
  const put = (
    text: string,
    words: string,
    by: string,
    kind: TextKind = 'html',
    more: Partial<Wanted> = {},
  ) => replaceIn(text, kind, wanted(words, more), by, longest)

  test('stands there as it is typed, and nothing else is another', () => {
    const text = '<p>The old\npier, OLD PIER: <a href="/old-pier.html">old pier</a></p>'
    expect(put(text, 'old pier', '<b>$& New</b>')).toBe(
      '<p>The <b>$& New</b>, <b>$& New</b>: <a href="/old-pier.html"><b>$& New</b></a></p>',
    )
    expect(put(text, 'old pier', 'x', 'source')).toBe(text)
  })

  test.each([
    ['<p title="Old pier">', '<p title="&quot;new&quot; &amp; &lt;">'],
    ["<p title='Old pier'>", "<p title='\"new\" &amp; &lt;'>"],
    ['<img alt=pier>', '<img alt="&quot;new&quot; &amp; &lt;">'],
    ['<img alt=the.pier,pier src=pier.png>', '<img alt="the.&quot;new&quot; &amp; &lt;,&quot;new&quot; &amp; &lt;" src=pier.png>'],
    ['<title>The pier</title>', '<title>The "new" &amp; &lt;</title>'],
    ['<textarea>The pier</textarea>', '<textarea>The "new" &amp; &lt;</textarea>'],
    ['<p>The pier</p>', '<p>The <b>"new"</b> &amp; &lt;</p>'],
  ])('stands in %s so that it is read as it is meant', (text, expected) => {
    expect(put(text, /old/i.test(text) ? 'old pier' : 'pier', '<b>"new"</b> &amp; &lt;')).toBe(expected)
  }) // prettier-ignore

  test('has the capitals of those that were there, unless it is typed with some or they are told apart', () => {
    const text = 'Tides, TIDES, tides; T'
    expect(put(text, 'tides', 'ebb and flood', 'words')).toBe(
      'Ebb and flood, EBB AND FLOOD, ebb and flood; T',
    )
    expect(put(text, 'tides', 'the Ebb', 'words')).toBe('the Ebb, the Ebb, the Ebb; T')
    expect(put('Tides', 'Tides', 'ebb', 'words', { isExact: true })).toBe('ebb')
    expect(put('<p>TIDES</p>', 'tides', 'ebb &amp; flood')).toBe('<p>Ebb &amp; flood</p>')
    expect(put('T', 't', 'ebb', 'words')).toBe('Ebb')
    expect(put('Ägir', 'ägir', 'öland', 'words')).toBe('Öland')
  })

  test('leaves what stands for something else in templates and patterns', () => {
    const source = '<title>{page} of page</title><nav>{site} page</nav>'
    expect(put(source, 'page', 'leaf', 'template')).toBe('<title>{page} of leaf</title><nav>{site} leaf</nav>')
    expect(put(source, 'page', 'leaf', 'template', { inSource: true })).toBe('<title>{leaf} of leaf</title><nav>{site} leaf</nav>')
    expect(put('{page} – page {site}', 'page', 'leaf', 'pattern', { inSource: true })).toBe('{page} – leaf {site}')
    expect(put('{page', 'page', 'leaf', 'pattern')).toBe('{leaf')
  }) // prettier-ignore
})

test('a text that would be longer than it may be is not made', () => {
  const text = 'a '.repeat(20_000)
  expect(replaceIn(text, 'words', wanted('a'), 'xxx', longest)).toBeNull()
  expect(replaceIn(text, 'words', wanted('a'), 'xx', longest)).toHaveLength(60_000)
})

test('in any text: as many are replaced as are found, in order, and what stands between them stays', () => {
  const piece = fc.constantFrom('ab', 'AB', 'a b', 'a\nb', ' ', '<p>', '</p>', '<i title="ab">', '&amp;', 'x', '"', '<!--', '-->', '(')
  fc.assert(
    fc.property(
      fc.array(piece, { maxLength: 20 }).map((all) => all.join('')),
      fc.constantFrom('ab', 'a b', '&', '(', 'b&'),
      fc.record({ isExact: fc.boolean(), isWhole: fc.boolean(), inSource: fc.boolean() }),
      fc.constantFrom<TextKind>('html', 'template', 'pattern', 'words', 'source'),
      (text, words, more, kind) => {
        const asked = wanted(words, more)
        const { count, lines } = findIn(text, kind, asked, Infinity)
        expect(lines).toHaveLength(count)
        const made = replaceIn(text, kind, asked, '\u0001', longest)!
        expect(made.split('\u0001')).toHaveLength(count + 1)
        // Put back one by one it is the text again.
        const places = finderOf(asked)!(text)
        const back = places.filter(({ start, end }) => text.slice(start, end).length > 0)
        expect(back.length).toBeGreaterThanOrEqual(count)
        if (more.inSource)
          expect(made.replace(/\u0001/g, () => text.slice(back[0]!.start, (back.shift() as { end: number }).end))).toBe(text)
      },
    ),
  )
}) // prettier-ignore
