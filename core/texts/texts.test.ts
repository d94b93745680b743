import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { readHtml } from '#core/markup'
import {
  cleanHtml,
  decodeHtml,
  htmlOfMarkdown,
  htmlOfParagraphs,
  htmlOfPlain,
  looksLikeMarkdown,
  pageOfFile,
  paragraphsInText,
  partOfPage,
  plainTextIn,
} from './index'
import { anySign } from '../testing/signs'

describe('what is pasted', () => {
  test('from a word processor is what it says, and nothing of how it looked', () => {
    const office = `<html xmlns:o="urn:x"><head><style>p{margin:0}</style></head><body><!--StartFragment-->
      <p class=MsoNormal style='margin:0cm'><b><span style='font-size:12.0pt'>High&nbsp;water</span></b><o:p></o:p></p>
      <p class=MsoNormal>See <a href="https://tides.example/" style="color:red"><span>the table</span></a>,&nbsp; <i>always</i>.<o:p>&nbsp;</o:p></p>
      <p class=MsoNormal><o:p>&nbsp;</o:p></p>
      <table class=MsoTable border=1 width=300><tr><td valign=top><p class=MsoNormal>Mon</p></td><td><p>9:12</p></td></tr></table>
      <!--EndFragment--></body></html>`
    expect(cleanHtml(office)).toBe(
      '<p><strong>High water</strong></p>\n<p>See <a href="https://tides.example/">the table</a>, <em>always</em>.</p>\n<table>\n  <tbody>\n    <tr>\n      <td>Mon</td>\n      <td>9:12</td>\n    </tr>\n  </tbody>\n</table>',
    )
  })

  test('paragraphs that a word processor wrote for entries are lists, by their levels and marks', () => {
    const entry = (list: number, level: number, mark: string, text: string) =>
      `<p class=MsoListParagraph style='text-indent:-18.0pt;mso-list:l${list} level${level} lfo1'><![if !supportLists]><span style='font-family:Symbol'><span style='mso-list:Ignore'>${mark}<span style='font:7.0pt'>&nbsp;&nbsp; </span></span></span><![endif]>${text}<o:p></o:p></p>`
    const list = (...lines: string[]) => cleanHtml(lines.join('\n'))
    expect(list(entry(0, 1, '·', 'Terns'), entry(0, 2, 'o', '<i>Arctic</i>'), entry(0, 1, '·', 'Gulls'), '<p class=MsoNormal>After</p>')).toBe(
      '<ul>\n  <li>Terns\n    <ul>\n      <li><em>Arctic</em></li>\n    </ul>\n  </li>\n  <li>Gulls</li>\n</ul>\n<p>After</p>',
    )
    expect(list(entry(1, 1, '3.', 'a'), entry(1, 1, '4.', 'b'), entry(2, 1, 'ii)', 'c'), entry(3, 2, '(A)', 'd'))).toBe(
      '<ol start="3">\n  <li>a</li>\n  <li>b</li>\n</ol>\n<ol type="i">\n  <li>c\n    <ol type="A">\n      <li>d</li>\n    </ol>\n  </li>\n</ol>',
    )
    // A level that begins without one above it, in a cell, with a mark that is none.
    expect(list(`<table><tr><td>${entry(0, 3, '', 'deep')}${entry(0, 1, '', 'top')}</td><td>x</td></tr><tr><td>y</td></tr></table>`)).toContain(
      '<ul>\n          <li>deep</li>\n        </ul>\n        <ul>\n          <li>top</li>\n        </ul>',
    )
  }) // prettier-ignore

  test('from a web page keeps its elements, and none of its boxes, scripts and dangers', () => {
    expect(cleanHtml('<div class=x><div>Text in a box</div><div><h2 id=a onclick=x>Tides</h2><script>alert(1)</script><ul class=y><li><p>one</p></li><li>two<ul><li>three</li></ul></li></ul></div></div>')).toBe(
      '<p>Text in a box</p>\n<h2>Tides</h2>\n<ul>\n  <li>one</li>\n  <li>two\n    <ul>\n      <li>three</li>\n    </ul>\n  </li>\n</ul>',
    )
    expect(cleanHtml('<a href="javascript:alert(1)">x</a> <a href=" https://a.example ">y</a><img src=x.png onerror=1 alt=""><img><img src="file:///C:/a.png"><img src="javascript:x">')).toBe(
      'x <a href="https://a.example">y</a><img src="x.png" alt=""><img src="file:///C:/a.png">',
    )
    expect(cleanHtml('<span style="font-weight:700">a</span><b style="font-weight:normal"> b</b>')).toBe('<strong>a</strong> b')
    expect(cleanHtml('<pre class=code> a\n  <b>b</b><br>c</pre>')).toBe('<pre> a\n  b\nc</pre>')
    // Two breaks in a row are how many write the end of a paragraph; one is one.
    expect(cleanHtml('<p id=a>One<br>more<br> <br>two <i>x</i><br><br></p><a href="#a">up</a><br><br>End')).toBe(
      '<p id="a">One<br>more</p>\n<p>two <em>x</em></p>\n<p><a href="#a">up</a></p>\n<p>End</p>',
    )
    expect(cleanHtml('One<br><br><b>a<br><br>b</b><br>c')).toBe('<p>One</p>\n<p><strong>a<br><br>b</strong><br>c</p>')
    expect(cleanHtml('<table><tr><td>a<br><br>b<td><div>c<br><br>d</div></table>')).toContain('<td>a<br><br>b</td>')
    expect(cleanHtml('<h2>a<br><br>b</h2>')).toBe('<h2>a<br><br>b</h2>')
    expect(cleanHtml('<pre>\n\n<code class=js><i>let</i> a\n</code>\n</pre>')).toBe('<pre><code>let a</code></pre>')
    expect(cleanHtml('<ul><li>so:<pre>a\n  b</pre></li></ul>')).toBe('<ul>\n  <li>\n    <p>so:</p>\n    <pre>a\n  b</pre>\n  </li>\n</ul>')
    // Source as its editor shows it: a box for each line.
    expect(cleanHtml(`<div style="white-space: pre; font-family: 'A Mono', monospace"><div><span>nav {</span></div><br><div>  top: 0</div><div>}</div></div>`)).toBe('<pre>nav {\n\n  top: 0\n}</pre>')
    expect(cleanHtml('<div style="white-space:pre-wrap;font-family:monospace">words</div>')).toBe('<p>words</p>')
  }) // prettier-ignore

  test('sound and films stay, as whoever visits can play them; what only the page held that they were copied from does not', () => {
    expect(cleanHtml('<p>See <video autoplay class=x src="/a.mp4" width=640 height=auto onplay=x>No film</video></p>')).toBe(
      '<p>See <video controls src="/a.mp4" width="640"></video></p>',
    )
    expect(cleanHtml('<div><audio><source src="https://a.example/b.ogg" type="audio/ogg"><source src="blob:x"><track src="b.vtt" kind=captions srclang=en default><p>No sound</p></audio></div>')).toBe(
      '<p><audio controls><source src="https://a.example/b.ogg" type="audio/ogg"><track src="b.vtt" kind="captions" srclang="en" default></audio></p>',
    )
    expect(cleanHtml('<p>Here:</p><iframe src="//maps.example/?a=1&amp;b" title="Where the &quot;pier&quot; is">No frames</iframe><div><iframe src="https://films.example/1"></iframe></div>')).toBe(
      '<p>Here:</p>\n<p><a href="https://maps.example/?a=1&amp;b">Where the "pier" is</a></p>\n<p><a href="https://films.example/1">films.example</a></p>',
    )
    expect(cleanHtml('<p>a<iframe src="javascript:x"></iframe><iframe></iframe><iframe src="b.html"></iframe><iframe src="https://a.example/" width=1></iframe><a href="/t"><em><iframe src="https://a.example/"></iframe>b</em></a></p>')).toBe('<p>a<a href="/t"><em>b</em></a></p>')
    expect(cleanHtml('<p>a<video src="blob:https://a.example/1"></video><audio></audio><video><source src="javascript:x"></video></p>')).toBe('<p>a</p>')
  }) // prettier-ignore

  test('footnotes and lists of contents lead where they led; what leads nowhere is no link', () => {
    const contents = `<p class=MsoToc1><a href="#_Toc4711"><span>Tides</span></a></p><p><a href="#gone">Gone</a></p>`
    const text = `<h1><a name="_Toc4711"></a><a name="_Ref9"></a>Tides &amp; winds</h1>
      <p>At noon<a href="#_ftn1" name="_ftnref1"><span style="vertical-align:super"><![if !x]>[1]<![endif]></span></a>.</p>
      <div><hr><div id=ftn1><p class=MsoFootnoteText><a href="#_ftnref1" name="_ftn1"><sup>[1]</sup></a> In summer.</p></div></div>`
    const cleaned =
      '<p><a href="#tides-winds">Tides</a></p>\n<p>Gone</p>\n<h1 id="tides-winds">Tides &amp; winds</h1>\n' +
      '<p>At noon<a id="_ftnref1" href="#_ftn1"><sup>[1]</sup></a>.</p>\n<hr>\n' +
      '<p><a id="_ftn1" href="#_ftnref1"><sup>[1]</sup></a> In summer.</p>'
    expect(cleanHtml(contents + text)).toBe(cleaned)
    // Ids of the text that it comes into stay that text's.
    expect(cleanHtml(contents + text, '<p id="gone"><b id=_ftn1>')).toBe(
      cleaned
        .replace('Gone', '<a href="#gone">Gone</a>')
        .replace('href="#_ftn1"', 'href="#_ftn1-2"')
        .replace('id="_ftn1"', 'id="_ftn1-2"'),
    )
    // Links of a copied page have its address in front, and places are named by boxes and in front of what they name.
    const page = 'https://tides.example/log.html'
    expect(
      cleanHtml(`<a href="${page}#a">A</a> <a href="${page}#b">B</a> <a href="https://other.example/#a">C</a>
        <div id=a><div><h2>First</h2></div></div><a name=b></a><div id=c>Second</div>`),
    ).toBe(
      '<p><a href="#a">A</a> <a href="#b">B</a> <a href="https://other.example/#a">C</a></p>\n<h2 id="a">First</h2>\n<p id="b">Second</p>',
    )
    // What carried the place is gone, and with its link the place that the link was.
    expect(cleanHtml('<p><a href="#b" id=a>x</a> <a href="#a">y</a></p><p id=b><br></p>')).toBe('<p>x y</p>')
  })

  test('tables that only lay a page out are gone, and what stood in them stands by itself', () => {
    const data = '<table><tr><td>Mon</td><td>9:12</td></tr><tr><td>Tue</td><td>9:58</td></tr></table>'
    expect(
      cleanHtml(
        `<table><tr><td><table><tr><td><h2>Tides</h2></td></tr></table></td><td><p>High</p>${data}</td></tr></table>`,
      ),
    ).toBe(`<h2>Tides</h2>\n<p>High</p>\n${cleanHtml(data)}`)
    expect(cleanHtml('<table><tr><td><ul><li>a</li></ul></td><td><p>b</p></td></tr></table>')).toBe(
      '<ul>\n  <li>a</li>\n</ul>\n<p>b</p>',
    )
    expect(cleanHtml('<table><tr><td><b>Menu</b></td></tr><tr><td><ul><li>a</li></ul></td></tr></table>')).toBe(
      '<p><strong>Menu</strong></p>\n<ul>\n  <li>a</li>\n</ul>',
    )
    for (const kept of [data, '<table><tr><td>a</td><td>b</td></tr></table>', '<table><caption>c</caption><tr><td>a</td></tr></table>'])
      expect(cleanHtml(kept)).toContain('<table>')
  }) // prettier-ignore

  test.each([
    [
      'by its style',
      '<td style="font-weight:bold">Day</td><td style="font-weight: 700">Height</td>',
      '<th scope="col">Day</th>\n      <th scope="col">Height</th>',
    ],
    [
      'by a class of its own style sheet',
      '<td class="xl65 r">Day</td><td class=xl65>Height</td>',
      '<th scope="col">Day</th>\n      <th scope="col">Height</th>',
    ],
    [
      'by its elements, but for a corner',
      '<td> </td><td><p><b>Height</b></p></td>',
      '<td></td>\n      <th scope="col">Height</th>',
    ],
  ])('a first row that is bold %s is a head of its table', (_, cells, heads) => {
    const style = '<style><!-- .xl65 {color:red; font-weight:700} .xl66 {font-weight:400} --></style>'
    const html = `${style}<table><tr>${cells}</tr><tr><td class=xl66>1 June</td><td>4.2</td></tr></table>`
    expect(cleanHtml(html)).toBe(
      `<table>\n  <thead>\n    <tr>\n      ${heads}\n    </tr>\n  </thead>\n  <tbody>\n    <tr>\n      <td>1 June</td>\n      <td>4.2</td>\n    </tr>\n  </tbody>\n</table>`,
    )
  })

  test('a first column that is bold heads its rows; where all is bold, or some of it, nothing does', () => {
    const row = (first: string, second: string) => `<tr><td>${first}</td><td>${second}</td></tr>`
    expect(cleanHtml(`<table>${row('<b>Adult</b>', '4')}${row('<b>Child</b>', '2')}</table>`)).toContain(
      '<th scope="row">Child</th>',
    )
    for (const cells of [
      row('<b>a</b>', '<b>b</b>') + row('<b>c</b>', '<b>d</b>'),
      row('<b>a</b>', 'b') + row('c', 'd'),
      row('<b>a</b> and', '<b>b</b>') + row('c', 'd'),
      row('<b>a</b>', '<b>b</b>'),
      `<tr><td><b>a</b></td><td><b>b</b></td></tr><tr><td><table>${row('c', 'd')}</table></td><td>e</td></tr>`,
    ])
      expect([cells, cleanHtml(`<table>${cells}</table>`).includes('<th')]).toEqual([cells, false])
  })

  test('of any kind becomes HTML that parses, stays the same when it is cleaned again, and does nothing', () => {
    const pieces = fc.constantFrom('<p>', '</p>', '<div>', '</div>', '<b>', '</b>', '<a href="javascript:x">', '<a href="/t">', '</a>', '<ul>', '<li>', '</ul>', '<table>', '<td>', '</table>', 'text', ' ', '&amp;', '<script>x</script>', '<img src=a onerror=b>', '<o:p>', '<pre>\n a', '</pre>', '<style>', '<svg onload=x>', '<h2 style="x">', '<font face=x>', '<br>', '<a href="#a">', '<p id=a>', '<a name=b>', '<video src=a>', '</video>', '<iframe src="https://a.example/">', '</iframe>', '<audio>', '<source src=b>', '<a href="/t#b" id=c>', '<div id=b>', '<tr>', '<a href="#c">c</a>', '<hr id=c>') // prettier-ignore
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 25 }), (words) => {
        const html = cleanHtml(words.join(''))
        expect(html).not.toMatch(/javascript:|onerror|onload|<script|style=|class=/i)
        expect(cleanHtml(html)).toBe(html)
        for (const [, place] of html.matchAll(/href="#([^"]+)/g)) expect(html).toContain(`id="${place}"`)
        expect(readHtml(html).errorCount).toBe(0)
      }),
      { numRuns: 1000 },
    )
    for (const deep of ['<div>', '<b>', '<pre><b>', '<ul><li>', '<table><td>', '<div id=a><a href=#a>'])
      expect(() => cleanHtml(`${deep.repeat(20_000)}x`)).not.toThrow()
  })
})

test('Markdown is known by its signs, and becomes HTML', () => {
  expect(looksLikeMarkdown('# Tides\n\nHigh at noon.')).toBe(true)
  expect(looksLikeMarkdown('- one\n- two\n\n**three**')).toBe(true)
  expect(looksLikeMarkdown('Plain text - with a dash.\n1988 was a year.')).toBe(false)
  expect(looksLikeMarkdown('# <p>x</p>')).toBe(false)
  expect(htmlOfMarkdown('# Tides\n\n| a | b |\n|---|---|\n| 1 | 2 |')).toContain('<th>a</th>')
})

test('a heading in Markdown has an id where a link of the same text leads to it, and nowhere else', () => {
  const html = htmlOfMarkdown(
    '[Tides](#tides--winds) [Boats][b]\n\n## Tides & *winds*\n\n## The boats\n\n## The boats\n\n## More\n\n[b]: #the-boats',
  )
  expect(html.match(/<h2.*/g)).toEqual([
    '<h2 id="tides--winds">Tides &amp; <em>winds</em></h2>',
    '<h2 id="the-boats">The boats</h2>',
    '<h2>The boats</h2>',
    '<h2>More</h2>',
  ])
  expect(html).toContain('<a href="#the-boats">')
})

describe('a file that becomes a page', () => {
  test('has its first heading for a label, else its title, else its name', () => {
    expect(pageOfFile('tide_times-2025.txt', '\ufeffHigh at noon.\r\nLow at six.\r\n\r\n\r\nAsk <us>.\r\n')).toMatchObject({
      label: 'Tide times-2025',
      html: '<p>High at noon.<br>\nLow at six.</p>\n<p>Ask &lt;us&gt;.</p>\n',
    })
    expect(pageOfFile('x.md', '# The *pier*\n\nRed.\n\n## Hours')).toMatchObject({ label: 'The pier', isTitled: true, html: '<p>Red.</p>\n<h2>Hours</h2>\n' })
    expect(pageOfFile('y.html', '<!DOCTYPE html><title>Old page</title><body class=x>\n<p>Text</p>\n<h2>Later</h2>\n</body>')).toMatchObject({ label: 'Old page', html: '<p>Text</p>\n<h2>Later</h2>\n' })
    expect(pageOfFile('keepers-cottage.htm', '<p>bare')).toMatchObject({ label: 'Keepers cottage', html: '<p>bare\n' })
    expect(pageOfFile('z.html', '<html><head><title>Old page</head><body><p>typed</body></html>')).toMatchObject({ label: 'Old page', html: '<p>typed\n' })
    // A heading whose end was forgotten is over where something begins that no heading holds.
    expect(pageOfFile('z.html', '<h1>Old<p>typed <b>badly<table><tr><td>x')).toMatchObject({ label: 'Old', html: '<p>typed <b>badly<table><tr><td>x\n' })
    expect(pageOfFile('z.html', '<h1><center>Old</center>\n<i>and</i> new<hr>\n<p>typed')).toMatchObject({ label: 'Old and new', html: '<hr>\n<p>typed\n' })
    expect(pageOfFile('z.html', '<h1><p>Old</h1>typed')).toMatchObject({ label: 'Old', html: 'typed\n' })
    expect(pageOfFile('.html', '')).toMatchObject({ label: 'Page', isTitled: false, html: '' })
  }) // prettier-ignore

  test('is called as its file where no heading stands above all others, and its headings go below that of the page', () => {
    expect(pageOfFile('opening.md', '# Summer\n\nNine.\n\n# Winter\n\n### Sundays')).toEqual({ label: 'Opening', isTitled: false, html: '<h2>Summer</h2>\n<p>Nine.</p>\n<h2>Winter</h2>\n<h4>Sundays</h4>\n' })
    // What is HTML stays as its author wrote it.
    expect(pageOfFile('opening.html', '<h1>Summer</h1><H1>Winter</H1>')).toMatchObject({ label: 'Opening', html: '<h1>Summer</h1><H1>Winter</H1>\n' })
  }) // prettier-ignore

  test('stands in another page under its title, its headings below that', () => {
    expect(partOfPage(pageOfFile('x.md', '# Pier & boats\n\n## Hours\n\nNine.'))).toBe('<h2>Pier &amp; boats</h2>\n<h3>Hours</h3>\n<p>Nine.</p>\n')
    expect(partOfPage(pageOfFile('x.md', 'Nine.\n\n## Later'))).toBe('<p>Nine.</p>\n<h2>Later</h2>\n')
  }) // prettier-ignore

  test('is made of any text', () => {
    fc.assert(
      fc.property(fc.constantFrom('a.txt', 'b.md', 'c.html'), fc.string({ unit: anySign, maxLength: 300 }), (name, text) => {
        const { label, html } = pageOfFile(name, text)
        expect(label).not.toBe('')
        expect(html === '' || html.endsWith('\n')).toBe(true)
      }),
    )
  }) // prettier-ignore
})

describe('an HTML file’s bytes', () => {
  const bytes = (...parts: (string | number)[]) =>
    new Uint8Array(
      parts.flatMap((part) => (typeof part === 'number' ? [part] : [...new TextEncoder().encode(part)])),
    )
  test.each([
    ['are UTF-8 where they can be', bytes('<p>é – ’'), '<p>é – ’', 'utf-8', 'bytes'],
    ['are what their byte order mark says', bytes(0xef, 0xbb, 0xbf, 'é'), 'é', 'utf-8', 'byte order mark'],
    ['in UTF-16', bytes(0xff, 0xfe, 0x61, 0), 'a', 'utf-16le', 'byte order mark'],
    [
      'are what they declare',
      bytes('<meta charset="iso-8859-2">', 0xb1),
      '<meta charset="iso-8859-2">ą',
      'iso-8859-2',
      'declaration',
    ],
    [
      'as older pages declare it',
      bytes('<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=koi8-r">', 0xc1),
      '<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=koi8-r">а',
      'koi8-r',
      'declaration',
    ],
    [
      'are Windows-1252 where they are no UTF-8',
      bytes(0x93, 'caf', 0xe9, 0x94, 0x20, 0x80),
      '“café” €',
      'windows-1252',
      'bytes',
    ],
    [
      'whatever they declare',
      bytes('<meta charset=utf-8>', 0x92),
      '<meta charset=utf-8>’',
      'windows-1252',
      'bytes',
    ],
    [
      'are not what nobody knows',
      bytes('<meta charset=klingon>é'),
      '<meta charset=klingon>é',
      'utf-8',
      'bytes',
    ],
    [
      'nor what a comment declares',
      bytes('<!-- <meta charset=koi8-r> -->é'),
      '<!-- <meta charset=koi8-r> -->é',
      'utf-8',
      'bytes',
    ],
    ['and may be none', bytes(), '', 'utf-8', 'bytes'],
  ])('%s', (_, given, text, encoding, toldBy) => {
    expect(decodeHtml(given)).toEqual({ text, encoding, toldBy })
  })
})

describe('a text that was typed without tags', () => {
  test('is told from HTML, and becomes it', () => {
    const typed = 'Six of them rowed\nto the light & back.\n\nThey still <em>do</em>.\n'
    expect(plainTextIn(typed)).toBe('paragraphs')
    expect(htmlOfPlain(typed, 'paragraphs')).toBe(
      '<p>Six of them rowed\nto the light & back.</p>\n\n<p>They still <em>do</em>.</p>\n',
    )
    expect(plainTextIn('# Boats\n\n* oak')).toBe('markdown')
    for (const html of ['', 'One line.', '<p>One</p>\n\n<p>Two</p>', '<h2>One</h2>\n\nTwo\n\n<ul></ul>'])
      expect(plainTextIn(html)).toBe(null)
  })

  const pieces = fc.constantFrom(
    'One', 'two words', '\n', '\n\n', '\n \n', '<b>bold</b>', '<br>', '<h2>Head</h2>', '<p>', '</p>', '<i>', '</i>', '<div>', '</div>', '<table>', '<td>',
    '</table>', '<img alt="" src="a.png">', '<!-- said -->', '<select>', '<pre>\n\n</pre>', '&amp;', '<svg>', '</svg>', ' < ', '<a href="b.html">', '</a>', '<every one>',
  ) // prettier-ignore
  test('of any kind keeps its words and elements where they were, in paragraphs that hold nothing but text', () => {
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 14 }), (all) => {
        const typed = all.join('')
        if (plainTextIn(typed) !== 'paragraphs') return
        const html = htmlOfPlain(typed, 'paragraphs')
        expect(html.replace(/<\/?p>/g, '')).toBe(typed.replace(/<\/?p>/g, ''))
        expect(readHtml(html).runs).toEqual([])
        // No paragraph is closed before its end tag: that would be an error of its own.
        expect(readHtml(html).errors.filter(({ code }) => /end-tag/.test(code)).length).toBeLessThanOrEqual(
          readHtml(typed).errors.filter(({ code }) => /end-tag/.test(code)).length,
        )
        expect(readHtml(html).references).toHaveLength(readHtml(typed).references.length)
      }),
      { numRuns: 1_000 },
    )
  })
})

test('paragraphs of a text without tags are those that blank lines part; source is none', () => {
  const mail = 'High water is at noon,\r\nTom & I think < 3 m.  \r\n \t\r\n\r\nBring boots.\r\n'
  expect(htmlOfParagraphs(paragraphsInText(mail) ?? [])).toBe(
    '<p>High water is at noon,\nTom &amp; I think &lt; 3 m.</p>\n<p>Bring boots.</p>',
  )
  for (const text of [
    'one line',
    'two\nlines',
    '\n\none\n\n',
    '<b>a</b>\n\nb',
    'p {\n  color: red;\n}\n\nb { top: 0 }',
    'let a = 1;\n\nlet b = 2;',
    '',
  ])
    expect(paragraphsInText(text)).toBeNull()
})
