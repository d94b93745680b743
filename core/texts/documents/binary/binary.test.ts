import fs from 'node:fs'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { Problem } from '#core/problems'
import { png } from '../../../testing/documents'
import { htmlOfDocument, pageOfDocument } from '../document'
import { planInDocument } from '../plan-text'
import { binaryParts, Bytes, partAt } from './parts'
import { pictureAt } from './picture'
import { rowIn } from './rows'
import { tokensIn } from './tokens'

/** As a word processor that is not ours writes it, but for what it says of itself. */
const log = new Uint8Array(fs.readFileSync('core/testing/files/keepers-log.doc'))

describe('a document of the binary form', () => {
  test('becomes a page: title, headings of its own styles, notes, links, lists, tables, pictures in and beside the text, boxes; its contents are left out', async () => {
    const page = await pageOfDocument('log_1924.doc', log)
    expect(page).toMatchObject({ label: "The keeper's log", isTitled: true, leftOut: 0 })
    expect(page.pictures.map(({ type }) => type)).toEqual(['image/png', 'image/png'])
    expect(page.html.replace(/\n\s*/g, '')).toBe(
      '<h2 id="storms">Storms</h2>' +
        '<p>The sea<sup><a id="note-from-1" href="#note-1">1</a></sup> was high on the 5<sup>th</sup>, <s>not</s> low<sup><a id="note-from-2" href="#note-2">2</a></sup>.</p>' +
        '<p><img src="data:image/x-of-document,0"></p><p><img src="data:image/x-of-document,1">Floating: beside.</p><p>With a box.</p>' +
        '<h3>Birds</h3><p>Back to <a href="#storms">the storms</a>.</p><ol type="a"><li>lettered</li><li>again</li></ol>' +
        '<table><tbody><tr><td colspan="2">Wide</td></tr><tr><td><p>One</p><p>more</p></td><td>Two</td></tr></tbody></table>' +
        '<p>Ende: Grüße, Привет, ελληνικά.</p><p>Words in a box</p>' +
        '<ol><li id="note-1">Of the <strong>north</strong>. <a href="#note-from-1">↑</a></li><li id="note-2">At the end. <a href="#note-from-2">↑</a></li></ol>',
    )
  })

  test('has cells that go over columns and rows, a head, and quotations', async () => {
    const boats = new Uint8Array(fs.readFileSync('core/testing/files/boats.doc'))
    expect((await pageOfDocument('boats.doc', boats)).html.replace(/\n\s*/g, '')).toBe(
      '<blockquote><p>The tern never waited.</p></blockquote>' +
        '<table><thead><tr><th>Boat</th><th colspan="2">Crossings</th></tr></thead><tbody>' +
        '<tr><td rowspan="3">Tern</td><td>May</td><td>9</td></tr><tr><td>June</td><td rowspan="2">8</td></tr><tr><td>July</td></tr>' +
        '<tr><td>Auk</td><td colspan="2">at rest</td></tr></tbody></table><p>After.</p>',
    )
  })

  test('its lists, below the headings that they stand under, are a plan', async () => {
    expect((await planInDocument(log)).text).toBe('Storms\n  Birds\n    lettered\n    again')
  })

  test('with a password, or older than its form, is told so', async () => {
    const begin = log.findIndex((byte, at) => byte === 0xec && log[at + 1] === 0xa5)
    for (const [at, value] of [[0x0b, 0x01], [0x03, 0x00]] as const) {
      const changed = log.slice()
      changed[begin + at]! = at === 0x0b ? changed[begin + at]! | value : value
      await expect(htmlOfDocument(changed)).rejects.toMatchObject({ code: 'document-locked' })
    }
  }) // prettier-ignore

  test('that is damaged ends in a sentence, or in what could be read', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 40 }), fc.nat(), async (changes, cut) => {
        const damaged = log.slice(0, cut % 4 === 0 ? cut % log.length : log.length)
        for (const [at, value] of changes) if (damaged.length > 0) damaged[at % damaged.length] = value
        const answer = await htmlOfDocument(damaged).catch((error: unknown) => error)
        expect(answer instanceof Problem || typeof answer === 'string').toBe(true)
      }),
      { numRuns: 300 },
    ) // prettier-ignore
  })

  test('whose notes lie over one another is no endless one', () => {
    const parts = binaryParts(log)
    const { all } = parts.table
    // Where the text of the first note ends: at the end of all there is.
    new DataView(all.buffer, all.byteOffset).setUint32(partAt(parts, 3).at + 4, 0x7fffffff, true)
    expect(() => [...tokensIn(parts)]).toThrow('Texts over one another')
  })
})

const numbers = (value: number, count: number) =>
  Array.from({ length: count }, (_, nth) => (value >> (8 * nth)) & 255)

test('a row tells where its cells end, which go on with others, and whether it is one of the head', () => {
  const short = (value: number) => numbers(value, 2)
  // What is said of a cell begins with how it is merged; of the last nothing is said.
  const cell = (flags: number) => [...short(flags), ...new Array<number>(18).fill(0)]
  const inside = [4, ...[-70, 1000, 2500, 4000, 5000].flatMap(short), ...[2, 1, 3 << 5].flatMap(cell)]
  const definition = [...short(0xd608), ...short(inside.length + 1), ...inside]
  const cells = [
    { right: 1000, goesOn: false, vertical: null },
    { right: 2500, goesOn: true, vertical: null },
    { right: 4000, goesOn: false, vertical: 'begins' },
    { right: 5000, goesOn: false, vertical: null },
  ]
  const empty = new Bytes(new Uint8Array())
  const head = [...short(0x3404), 1]
  const here = Uint8Array.from([...head, ...definition])
  expect(rowIn({ main: new Bytes(here), table: empty, data: empty }, 0, here.length)).toEqual({
    cells,
    isHead: true,
  })
  // What had no room stands elsewhere, and what follows changes it: the last goes on with the one above, and with the one before.
  const data = new Bytes(Uint8Array.from([9, ...short(definition.length), ...definition]))
  const main = Uint8Array.from([
    ...short(0x646b),
    ...numbers(1, 4),
    ...short(0xd62b),
    2,
    3,
    1,
    ...short(0x5624),
    2,
    9,
  ])
  expect(rowIn({ main: new Bytes(main), table: empty, data }, 0, main.length)).toEqual({
    cells: [...cells.slice(0, 3), { right: 5000, goesOn: true, vertical: 'goes on' }],
    isHead: false,
  })
  expect(() => rowIn({ main: new Bytes(here.slice(0, 12)), table: empty, data: empty }, 0, 12)).toThrow(
    RangeError,
  )
})

test('what a picture says to somebody who cannot see it is told with it', () => {
  const letters = (text: string) => [...text].flatMap((letter) => numbers(letter.charCodeAt(0), 2))
  const record = (head: number, kind: number, inside: number[]) => [...numbers(head, 2), ...numbers(kind, 2), ...numbers(inside.length, 4), ...inside] // prettier-ignore
  const alt = letters('A lamp\0')
  const name = letters('lamp.png\0')
  // Its picture's number and two texts, each by its length, the texts behind all three.
  const properties = [[0x4104, 1], [0xc105, name.length], [0xc381, alt.length]].flatMap(([code, value]) => [...numbers(code!, 2), ...numbers(value!, 4)]) // prettier-ignore
  const shape = record(0xf, 0xf004, record(0x33, 0xf00b, [...properties, ...name, ...alt]))
  const store = record(0x62, 0xf007, [...new Array<number>(36).fill(0), ...record(0x6e00, 0xf01e, [...new Array<number>(17).fill(9), ...png])]) // prettier-ignore
  const head = [...numbers(68 + shape.length + store.length, 4), ...numbers(68, 2), ...numbers(0x64, 2), ...new Array<number>(60).fill(0)] // prettier-ignore
  const data = new Bytes(Uint8Array.from([...head, ...shape, ...store]))
  expect(pictureAt(data, 0)).toEqual({ bytes: png, alt: 'A lamp' })
  expect(pictureAt(data, 4)).toBeNull()
})
