import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { Problem } from '#core/problems'
import { png } from '../../testing/documents'
import { pageOfDocument, planInDocument, withPictures } from './index'

/** A text in RTF, letters of which are bytes. */
const rich = (body: string, start = '\\ansi\\ansicpg1252') => Uint8Array.from(`{\\rtf1${start}\n${body}}`, (letter) => letter.charCodeAt(0)) // prettier-ignore
const htmlOf = async (body: string, start?: string) =>
  (await pageOfDocument('x.rtf', rich(body, start))).html.replace(/\n\s*/g, '')

describe('a text in RTF becomes a page', () => {
  test('as a word processor writes it: styles, marks, links, entries by their marks', async () => {
    const styles =
      '{\\stylesheet{\\s0 Normal;}{\\s1\\outlinelevel0 heading 1;}{\\s2\\sbasedon1\\outlinelevel1 heading 2;}{\\s3{\\*\\rsid5}Title;}{\\*\\cs9 Letters;}}'
    const entry = (mark: string, level: number, words: string) =>
      `\\pard\\plain\\ls1\\ilvl${level} {\\listtext\\pard ${mark}\\tab}${words}\\par `
    const page = await pageOfDocument(
      'x.rtf',
      rich(
        `{\\fonttbl{\\f0 Times;}}${styles}{\\info{\\title No}}{\\header running}\\pard\\s3 Our pier\\par\\pard\\s1{\\b Boats}\\par` +
          '\\pard\\plain We {\\b cross {\\i early}} to {\\field{\\*\\fldinst HYPERLINK "https://a.example/?b"}{\\fldrslt{\\ul the light}}}.\\par' +
          entry('\\bullet', 0, 'one') + entry('1.', 1, 'first') + entry('2.', 1, 'second') + '\\pard\\s2 Fares\\par',
      ),
    ) // prettier-ignore
    expect(page.label).toBe('Our pier')
    expect(page.html.replace(/\n\s*/g, '')).toBe(
      '<h2>Boats</h2><p>We <strong>cross</strong> <strong><em>early</em></strong> to <a href="https://a.example/?b">the light</a>.</p><ul><li>one<ol><li>first</li><li>second</li></ol></li></ul><h3>Fares</h3>',
    )
  })

  test('captions and quotations, as their styles are called', async () => {
    const styles = '{\\stylesheet{\\s1 caption;}{\\s2\\qj Intense Quote;}{\\s3 Quotations;}}'
    const picture = `{\\pict\\pngblip ${[...png].map((byte) => byte.toString(16).padStart(2, '0')).join('')}}`
    const said = '\\pard\\s2 Said.\\par\\pard\\s3 Again.\\par\\pard By {\\i her}.\\par'
    expect(await htmlOf(`${styles}\\pard ${picture}\\par\\pard\\s1 The pier\\par${said}`)).toMatch(
      /^<figure><img[^>]*><figcaption>The pier<\/figcaption><\/figure><blockquote><p>Said.<\/p><p>Again.<\/p><\/blockquote><p>By <em>her<\/em>.<\/p>$/,
    )
  })

  test('as a plain editor writes it, without styles: larger letters are headings, larger ones above', async () => {
    const html = await htmlOf(
      '\\f0\\fs48 \\b The pier\\\n\\fs36 Hours\\b0\\fs24\\\nFrom nine to five, every day of the year.\\\n\\fs36 \\b Fares\\b0\\fs24\\\nNone.\\\n',
    )
    expect(html).toBe('<h2>Hours</h2><p>From nine to five, every day of the year.</p><h2>Fares</h2><p>None.</p>') // prettier-ignore
  })

  test('letters in code pages and fonts of their own, by their numbers, and not those that stand for them', async () => {
    expect(await htmlOf("\\'93H\\'e9l\\'e8ne\\'94 \\'96 \\emdash\\~x")).toBe('<p>“Hélène” – — x</p>')
    expect(await htmlOf('left\\column right\\page over')).toBe('<p>left</p><p>right</p><p>over</p>')
    expect(await htmlOf('\\pard\\ls1{\\listtext 1.\\tab}\\column one\\par')).toBe('<ol><li>one</li></ol>')
    expect(await htmlOf("\\'cf\\'f0", '\\ansi\\ansicpg1251')).toBe('<p>Пр</p>')
    expect(await htmlOf("{\\fonttbl{\\f1\\fcharset128 M;}}\\f1 \\'93\\'fa{\\f0 \\'e9}")).toBe('<p>日é</p>')
    expect(await htmlOf("\\uc1\\u8220\\'93a\\u-10179?\\u-8704?\\uc0\\u233 b{\\uc3\\u26085 abcd}e")).toBe(
      '<p>“a😀éb日de</p>',
    )
  })

  test('cells that go over columns and rows, as their edges and marks say; rows of the head', async () => {
    const row = (head: string, ...cells: [definition: string, words: string][]) => `\\trowd${head}${cells.map(([definition]) => `\\${definition}`).join('')} ${cells.map(([, words]) => `\\pard\\intbl ${words}\\cell`).join('')}\\row ` // prettier-ignore
    const table = [
      // Wider than the cells below it, and not marked as made of two.
      row('\\trhdr', ['cellx1000', 'Boat'], ['cellx4010', 'Hours']),
      row('', ['clvmgf\\cellx1000', 'Tern'], ['cellx2500', 'May'], ['cellx3990', '9']),
      // Its edges are as near as a hand draws them.
      row('', ['clvmrg\\cellx1030', ''], ['clvmgf\\cellx2500', 'June'], ['cellx4000', '8']),
      row('', ['clvmrg\\cellx1000', ''], ['clvmrg\\cellx2500', ''], ['clvmgf\\cellx4000', '7']),
      // A row in which no cell begins is none.
      row('', ['clvmrg\\cellx1000', ''], ['clvmrg\\cellx2500', ''], ['clvmrg\\cellx4000', '']),
      // What goes on has something as wide above it, or begins itself.
      row('', ['cellx1000', 'Auk'], ['clvmrg\\cellx4000', 'at rest']),
    ].join('')
    expect(await htmlOf(table)).toBe(
      '<table><thead><tr><th>Boat</th><th colspan="2">Hours</th></tr></thead><tbody>' +
        '<tr><td rowspan="3">Tern</td><td>May</td><td>9</td></tr><tr><td rowspan="2">June</td><td>8</td></tr><tr><td>7</td></tr>' +
        '<tr><td>Auk</td><td colspan="2">at rest</td></tr></tbody></table>',
    )
  })

  test('tables with merged cells, notes, places, and what is not to be seen', async () => {
    const row = (mark: string, ...cells: string[]) => `\\trowd\\cellx1${mark}\\cellx2\\cellx3 ${cells.map((words) => `\\pard\\intbl ${words}\\cell`).join('')}\\row ` // prettier-ignore
    expect(await htmlOf(`a\\par ${row('\\clmrg', '1', '', '{\\b 2}')}${row('', '3', '4', '5')}\\pard b\\par`)).toBe(
      '<p>a</p><table><tbody><tr><td colspan="2">1</td><td><strong>2</strong></td></tr><tr><td>3</td><td>4</td><td>5</td></tr></tbody></table><p>b</p>',
    )
    expect(await htmlOf('{\\*\\bkmkstart here}Seen{\\v hidden}{\\deleted gone}{\\*\\unknown {x}} {\\super 1}{\\strike no}{\\footnote\\pard A note.\\par}.\\par {\\field{\\*\\fldinst{HYPERLINK \\\\l "here"}}{\\fldrslt up}}')).toBe(
      '<p id="here">Seen <sup>1</sup><s>no</s><sup><a id="note-from-1" href="#note-1">1</a></sup>.</p><p><a href="#here">up</a></p><ol><li id="note-1">A note. <a href="#note-from-1">↑</a></li></ol>',
    )
  }) // prettier-ignore

  test('pictures in hexadecimal or as they are, once each', async () => {
    const hex = [...png].map((byte) => byte.toString(16).padStart(2, '0')).join('')
    const data = String.fromCharCode(...png)
    const page = await pageOfDocument(
      'x.rtf',
      rich(
        `{\\*\\shppict{\\pict\\pngblip\n${hex.slice(0, 40)}\n${hex.slice(40)}}}{\\nonshppict{\\pict\\wmetafile8 00}}\\par{\\pict\\pngblip\\bin${png.length} ${data}}\\par{\\pict\\emfblip 0102}x`,
      ),
    )
    expect([page.pictures.length, page.leftOut]).toEqual([1, 1])
    expect(page.pictures[0]!.bytes).toEqual(png)
    expect(withPictures(page.html, String).match(/0/g)).toHaveLength(2)
  })
})

test('whatever is written by numbers of letters comes out, in its order', async () => {
  const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 30 }).filter((text) => /^[^\p{C}\p{Z}]+$/u.test(text)) // prettier-ignore
  await fc.assert(
    fc.asyncProperty(fc.array(words, { minLength: 2, maxLength: 6 }), async (paragraphs) => {
      const units = (text: string) =>
        Array.from({ length: text.length }, (_, at) => `\\u${text.charCodeAt(at)}?`).join('')
      const { text } = await planInDocument(rich(paragraphs.map((one) => `\\pard ${units(one)}\\par`).join('\n'))) // prettier-ignore
      expect(text.split('\n')).toEqual(paragraphs)
    }),
    { numRuns: 100 },
  )
})

test('a plan is its entries below its headings, without its notes', async () => {
  const body =
    '\\pard\\outlinelevel0 Visit{\\footnote Later.}\\par\\pard \\bullet\\tab Crossings\\par \\endash\\tab Summer\\par\\pard\\outlinelevel0 Stay\\par'
  expect(await planInDocument(rich(body))).toEqual({
    text: 'Visit\n  Crossings\n    Summer\nStay',
    isTable: false,
  })
})

test('what is damaged or hostile ends in a sentence, or in what could be read', async () => {
  const whole = rich('{\\fonttbl{\\f0 T;}}{\\stylesheet{\\s1\\outlinelevel0 heading 1;}}\\pard\\s1 a\\par{\\field{\\*\\fldinst HYPERLINK "x"}{\\fldrslt b}}\\trowd\\cellx1\\intbl c\\cell\\row{\\footnote d}{\\pict 00}\\bin3 abc') // prettier-ignore
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(fc.nat(), fc.constantFrom(...'{}\\0-a \n')), { maxLength: 15 }), async (changes) => {
      const damaged = whole.slice()
      for (const [at, sign] of changes) damaged[6 + (at % (damaged.length - 6))] = sign.charCodeAt(0)
      const answer = await pageOfDocument('x.rtf', damaged).catch((error: unknown) => error)
      expect(answer instanceof Problem || typeof (answer as { html?: unknown }).html === 'string').toBe(true)
    }),
    { numRuns: 500 },
  ) // prettier-ignore
  await expect(pageOfDocument('x.rtf', rich('{'.repeat(100_000)))).rejects.toThrow(
    'no document that can be read',
  )
  for (const many of ['\\par', '\\cell', '{\\footnote x}', "\\'e9", '\\bin99999999 ', '{\\field{\\*\\fldinst HYPERLINK "x"}{\\fldrslt y'])
    expect(typeof (await planInDocument(rich(many.repeat(900)))).text).toBe('string') // prettier-ignore
})
