import { expect, test } from '@jest/globals'
import CFB from 'cfb'
import { strToU8, unzipSync, zipSync } from 'fflate'
import {
  drawing,
  openDocument,
  openSheet,
  p,
  pack,
  png,
  wordDocument,
  workbook,
} from '../../testing/documents'
import { pageOfDocument, withPictures } from './index'

test('a document becomes a page of its words, under its title, with headings below that of the page', async () => {
  const page = await pageOfDocument(
    'report_2025.docx',
    wordDocument(
      p('Titel', 'The summer') + p('b1', 'Boats &amp; tides') + p('round', 'We cross ', '<w:r><w:rPr><w:b/></w:rPr><w:t>early</w:t></w:r>', '.') +
      p('mine', 'Fares') + p('lv', 'Birds') + p('', '<w:hyperlink r:id="l"><w:r><w:t>more</w:t></w:r></w:hyperlink>'),
    ),
  ) // prettier-ignore
  expect(page).toMatchObject({ label: 'The summer', leftOut: 0, pictures: [] })
  expect(page.html).toBe(
    '<h2>Boats &amp; tides</h2>\n<p>We cross <strong>early</strong>.</p>\n<h3>Fares</h3>\n<h2>Birds</h2>\n<p><a href="https://example.org/">more</a></p>\n',
  )
})

test('without a title its first heading is one if it stands above all others; else it is called as its file', async () => {
  const [above, beside] = await Promise.all([
    pageOfDocument('x.docx', wordDocument(p('b1', 'The pier') + p('', 'Red.') + p('b2', 'Hours'))),
    pageOfDocument(
      'opening_times.docx',
      wordDocument(p('b1', 'Summer') + p('', 'Nine.') + p('b1', 'Winter')),
    ),
  ])
  expect([above.label, above.html]).toEqual(['The pier', '<p>Red.</p>\n<h2>Hours</h2>\n'])
  expect([beside.label, beside.html]).toEqual(['Opening times', '<h2>Summer</h2>\n<p>Nine.</p>\n<h2>Winter</h2>\n']) // prettier-ignore
})

test('a spreadsheet becomes a page with its rows as a table', async () => {
  const rows = [['Day', 'Opens'], ['Monday', 9]] // prettier-ignore
  for (const bytes of [workbook(rows), openSheet(rows)]) {
    const page = await pageOfDocument('opening_times.xlsx', bytes)
    expect(page).toMatchObject({ label: 'Opening times', isTitled: false, pictures: [], leftOut: 0 })
    expect(page.html.replace(/\n\s*/g, '')).toBe(
      '<table><thead><tr><th scope="col">Day</th><th scope="col">Opens</th></tr></thead><tbody><tr><td>Monday</td><td>9</td></tr></tbody></table>',
    )
  }
})

test('its pictures are told with what they say, once each; what no browser shows is left out and counted', async () => {
  const body =
    p('', drawing('p1', 'A red pier Description automatically generated')) + p('cap', 'The pier') +
    p('', drawing('p1', 'A red pier')) + p('', drawing('p1', '')) + p('', drawing('p2', 'Chart'), 'Words') // prettier-ignore
  const page = await pageOfDocument('x.docx', wordDocument(body))
  expect(page.leftOut).toBe(1)
  expect(page.pictures.map(({ alt, type, bytes }) => [alt, type, bytes.length])).toEqual([
    ['A red pier', 'image/png', png.length],
    [null, 'image/png', png.length],
  ])
  expect(withPictures(page.html, (number) => `[${number}]`)).toBe(
    '<figure>\n  [0]\n  <figcaption>The pier</figcaption>\n</figure>\n<p>[0]</p>\n<p>[1]</p>\n<p>Words</p>\n',
  )
})

test('a list of contents leads to the headings without the numbers of pages, and is left out where it leads nowhere', async () => {
  const tab = '<w:r><w:tab/></w:r>'
  const linked = p('toc', `<w:hyperlink w:anchor="_Toc1"><w:r><w:t>Boats</w:t></w:r>${tab}<w:r><w:t>12</w:t></w:r></w:hyperlink>`) // prettier-ignore
  const plain = p('toc', 'Birds', tab, '14')
  const heading = p('b1', '<w:bookmarkStart w:id="0" w:name="_Toc1"/>', 'Boats')
  const { html } = await pageOfDocument('x.docx', wordDocument(p('', 'First.') + linked + plain + heading))
  expect(html).toBe('<p>First.</p>\n<p><a href="#boats">Boats</a></p>\n<h2 id="boats">Boats</h2>\n')
})

test('OpenDocument: marks of styles, lists in lists, tables, notes, quotations and lines of source', async () => {
  const styles =
    '<style:style style:name="T1" style:family="text"><style:text-properties fo:font-weight="bold"/></style:style>' +
    '<style:style style:name="T2" style:parent-style-name="T1"><style:text-properties fo:font-style="italic"/></style:style>' +
    '<style:style style:name="T3"><style:text-properties style:text-position="sub 58%"/></style:style>' +
    '<style:style style:name="P1" style:parent-style-name="Preformatted_20_Text"/><style:style style:name="P2" style:parent-style-name="P2"/>' +
    '<text:list-style style:name="L1"><text:list-level-style-number text:level="1" style:num-format="1"/><text:list-level-style-bullet text:level="2"/></text:list-style>'
  const item = (inside: string) => `<text:list-item>${inside}</text:list-item>`
  const list = (...items: string[]) =>
    `<text:list text:style-name="L1">\n${items.map(item).join('\n')}\n</text:list>`
  const body =
    '<text:tracked-changes><text:deletion><text:p>Gone</text:p></text:deletion></text:tracked-changes>' +
    '<text:p text:style-name="Title">The light</text:p><text:h text:outline-level="1">Lens</text:h>' +
    '<text:p text:style-name="P2">It is <text:span text:style-name="T2">bright</text:span>, H<text:span text:style-name="T3">2</text:span>O.<text:note><text:note-citation>i</text:note-citation><text:note-body><text:p>Since 1871.</text:p></text:note-body></text:note><office:annotation><text:p>Check!</text:p></office:annotation></text:p>' +
    list('<text:p>One</text:p>') + list('<text:list><text:list-item><text:p>One a</text:p></text:list-item></text:list>') + list('<text:p>Two</text:p>') +
    '<text:list text:style-name="L1"><text:list-item><text:h text:outline-level="2">Numbered</text:h></text:list-item></text:list>' +
    '<table:table><table:table-header-rows><table:table-row><table:table-cell table:number-columns-spanned="2"><text:p>Hours</text:p></table:table-cell><table:covered-table-cell/></table:table-row></table:table-header-rows><table:table-row><table:table-cell><text:p>May</text:p></table:table-cell><table:table-cell><text:p>9</text:p></table:table-cell></table:table-row></table:table>' +
    '<text:p text:style-name="Quotations">Said.</text:p><text:p text:style-name="Quotations">Again.</text:p>' +
    '<text:p text:style-name="P1">a {</text:p><text:p text:style-name="P1"><text:s text:c="2"/>b</text:p>' // prettier-ignore
  const { label, html } = await pageOfDocument('x.odt', openDocument(body, styles))
  expect(label).toBe('The light')
  expect(html).toBe(
    '<h2>Lens</h2>\n<p>It is <strong><em>bright</em></strong>, H<sub>2</sub>O.<sup><a id="note-ref-1" href="#note-1">[1]</a></sup></p>\n' +
    '<ol>\n  <li>One\n    <ul>\n      <li>One a</li>\n    </ul>\n  </li>\n  <li>Two</li>\n</ol>\n<h3>Numbered</h3>\n' +
    '<table>\n  <thead>\n    <tr>\n      <th colspan="2">Hours</th>\n    </tr>\n  </thead>\n  <tbody>\n    <tr>\n      <td>May</td>\n      <td>9</td>\n    </tr>\n  </tbody>\n</table>\n' +
    '<blockquote>\n  <p>Said.</p>\n  <p>Again.</p>\n</blockquote>\n<pre>a {\n  b</pre>\n<ol>\n  <li id="note-1">Since 1871. <a href="#note-ref-1">↑</a></li>\n</ol>\n',
  ) // prettier-ignore
})

test('OpenDocument: of a picture in several forms the one that can be shown, with what its author says of it', async () => {
  const image = (at: string) => `<draw:image xlink:href="Pictures/${at}"/>`
  const body = `<text:p><draw:frame>${image('two.svm')}${image('one.png')}<svg:title>Pier</svg:title><svg:desc>A red\n pier</svg:desc></draw:frame></text:p><text:p><draw:frame>${image('gone.png')}</draw:frame>After</text:p>`
  const page = await pageOfDocument('x.odt', openDocument(body))
  expect(page).toMatchObject({ leftOut: 0, pictures: [{ alt: 'A red pier', extension: 'png' }] })
  expect(withPictures(page.html, () => '[it]')).toBe('<p>[it]</p>\n<p>After</p>\n')
})

test('what is none, is locked, is too large or too deep is refused with a sentence', async () => {
  const refusal = (bytes: Uint8Array) => pageOfDocument('x.docx', bytes).then(() => 'read', ({ code }: { code: string }) => code) // prettier-ignore
  expect(await refusal(strToU8('Just words'))).toBe('not-a-document')
  expect(await refusal(Uint8Array.of(0xd0, 0xcf, 0x11, 0xe0, 1, 2, 3))).toBe('not-a-document')
  // What is locked with a password is packed so ([MS-OFFCRYPTO] §2.3.4.4).
  const locked = CFB.utils.cfb_new()
  CFB.utils.cfb_add(locked, '/EncryptedPackage', Uint8Array.of(1, 2, 3))
  expect(await refusal(Uint8Array.from(CFB.write(locked, { type: 'array' }) as number[]))).toBe(
    'document-locked',
  )
  expect(await refusal(pack({ 'readme.txt': 'x' }))).toBe('not-a-document')
  expect(await refusal(openDocument('<text:section>'.repeat(600)))).toBe('not-a-document')
  // It says that it becomes 300 MB and one more, where the archive lists it (APPNOTE 4.3.12).
  const bomb = pack({ 'word/document.xml': 'x' })
  const listed = bomb.findIndex((_, at) => bomb[at] === 0x50 && bomb[at + 1] === 0x4b && bomb[at + 2] === 1)
  new DataView(bomb.buffer).setUint32(listed + 24, 300_000_001, true)
  expect(await refusal(bomb)).toBe('document-too-large')
})

test('whatever is broken in a document, the answer is a page or a sentence', async () => {
  const whole = [
    wordDocument(p('Titel', 'The summer') + p('', drawing('p1', 'x')) + p('toc', 'a', '<w:r><w:tab/></w:r>', '3')),
    openDocument('<text:p text:style-name="Title">A</text:p><text:list><text:list-item><text:p>x</text:p></text:list-item></text:list>'),
  ] // prettier-ignore
  let seed = 1
  const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below
  const outcomes = new Set<string>()
  for (let nth = 0; nth < 300; nth++) {
    // Broken as an archive, and broken within.
    const parts = unzipSync(whole[nth % 2]!)
    const names = Object.keys(parts)
    const part = parts[names[random(names.length)]!]!
    for (let times = 0; times < 3; times++) part[random(part.length)] = random(256)
    const bytes = nth % 3 === 0 ? whole[nth % 2]!.slice() : zipSync(parts)
    if (nth % 3 === 0) bytes[random(bytes.length)] = random(256)
    const outcome = await pageOfDocument('x.odt', nth % 10 === 0 ? bytes.subarray(0, random(bytes.length)) : bytes).then(
      ({ html }) => typeof html,
      ({ code, message }: { code?: string; message: string }) => code ?? message,
    ) // prettier-ignore
    outcomes.add(outcome)
  }
  // A size that is broken can be a large one.
  outcomes.delete('document-too-large')
  expect([...outcomes].sort()).toEqual(['not-a-document', 'string'])
}, 60_000)
