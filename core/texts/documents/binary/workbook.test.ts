import fs from 'node:fs'
import CFB from 'cfb'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { Problem } from '#core/problems'
import { pageOfDocument } from '../document'
import { planInDocument } from '../plan-text'
import { rowsOfSpreadsheet } from '../spreadsheet'

/** As a program that is not ours writes it, but for what it says of itself. */
const hire = new Uint8Array(fs.readFileSync('core/testing/files/hire.xls'))

const short = (...values: number[]) => values.flatMap((value) => [value & 0xff, (value >> 8) & 0xff])
const long = (value: number) => [...short(value & 0xffff), ...short(value >>> 16)]
const double = (value: number) => [...new Uint8Array(new Float64Array([value]).buffer)]
const narrow = (text: string) => [...text].map((letter) => letter.charCodeAt(0))
const wide = (text: string) => [...text].flatMap((letter) => short(letter.charCodeAt(0)))
const record = (kind: number, data: readonly number[]) => [...short(kind, data.length), ...data]
const [end, formula, formulaText, next] = [record(0x0a, []), 0x06, 0x207, 0x3c]

/** A workbook of one sheet, of what both say between their begins and ends; `name` and `form` of its generation. */
function workbook(shared: readonly number[], cells: readonly number[], { name = '/Workbook', form = 0x0600, state = 0 } = {}): Uint8Array {
  const begin = (part: number) => record(0x809, short(form, part, 0, 0))
  const sheet = (at: number) => record(0x85, [...long(at), state, 0, 1, 0, 0x41])
  const length = begin(5).length + sheet(0).length + shared.length + end.length
  const all = [...begin(5), ...sheet(length), ...shared, ...end, ...begin(0x10), ...cells, ...end]
  const file = CFB.utils.cfb_new({})
  CFB.utils.cfb_add(file, name, all)
  return new Uint8Array(CFB.write(file, { type: 'array' }) as ArrayBuffer)
} // prettier-ignore

describe('a spreadsheet of the binary form', () => {
  test('tells its rows: numbers, days and times as their formats show them, long texts over many records', async () => {
    const rows = (await rowsOfSpreadsheet(hire))!
    expect(rows.slice(0, 3)).toEqual([
      ['Boat', 'Küste 日本', 'Opens', 'Price'],
      ['Skiff bold', '03.03.2031', '09:30', '12.5', '12.5%'],
      ['0', '1.1', '-7', '123456789012', '1'],
    ])
    const words = Array<string>(150).fill('Wörter').join(' ')
    expect(rows.slice(3)).toEqual(
      Array.from({ length: 9 }, (_, nth) => [`${words} ${nth}${nth % 2 ? '日' : ''}`, String(nth), String(nth + 1)]), // prettier-ignore
    )
    expect((await pageOfDocument('hire.xls', hire)).html).toContain('<td>03.03.2031</td>')
    const { text, isTable } = await planInDocument(hire)
    expect([text.split('\n')[0], isTable]).toEqual(['Boat\tKüste 日本\tOpens\tPrice', true])
  })

  test('holds texts that change how wide their letters are where a record ends, and are followed by how they look', async () => {
    const texts = [
      ...record(0xfc, [...long(2), ...long(2), ...short(8), 0x0d, ...short(1), ...long(3), ...wide('Fäh')]),
      ...record(next, [0, ...narrow('re 2b'), ...short(0, 0)]),
      ...record(next, [7, 7, 7, ...short(3), 0, ...narrow('End')]),
    ]
    const cell = (row: number, column: number, text: number) => record(0xfd, [...short(row, column, 0), ...long(text)])
    expect(await rowsOfSpreadsheet(workbook(texts, [...cell(4, 1, 0), ...cell(2, 0, 1), ...cell(5, 0, 9)]))).toEqual([['End'], ['', 'Fähre 2b']])
  }) // prettier-ignore

  test('holds what formulas came to, shortened numbers, and no errors', async () => {
    const result = (column: number, value: readonly number[]) => record(formula, [...short(0, column, 0), ...value, ...short(0)])
    const cells = [
      ...result(0, [0, 0, 0, 0, 0, 0, 0xff, 0xff]),
      ...record(formulaText, [...short(4), 1, ...wide('Öl 1')]),
      ...result(1, double(2.5)),
      ...result(2, [2, 0, 7, 0, 0, 0, 0xff, 0xff]),
      ...result(3, [1, 0, 1, 0, 0, 0, 0xff, 0xff]),
      ...record(0xbd, [...short(0, 4), ...short(0), ...long((1234 << 2) | 3), ...short(0), ...long((-5 << 2) | 2), ...short(5)]),
      ...record(0x205, [...short(0, 6, 0), 7, 1]),
      ...record(0x203, [...short(0, 7, 0), ...double(0.1 + 0.2)]),
    ]
    expect(await rowsOfSpreadsheet(workbook([], cells))).toEqual([['Öl 1', '2.5', '', '1', '12.34', '-5', '', '0.3']])
    // Hidden, it is not told.
    expect(await rowsOfSpreadsheet(workbook([], cells, { state: 1 }))).toEqual([])
  }) // prettier-ignore

  test('may be of 1995, in the letters of its code page, with days from another year', async () => {
    const shared = [
      ...record(0x42, short(1251)),
      ...record(0x22, short(1)),
      ...record(0x41e, [...short(170), 10, ...narrow('yyyy-mm-dd')]),
      ...record(0xe0, [...short(0, 0), ...Array<number>(12).fill(0)]),
      ...record(0xe0, [...short(0, 170), ...Array<number>(12).fill(0)]),
    ]
    const cells = [
      ...record(0x204, [...short(0, 0, 0), ...short(3), 0xcc, 0xee, 0xf0]),
      ...record(0x203, [...short(0, 1, 1), ...double(46_448)]),
    ]
    expect(await rowsOfSpreadsheet(workbook(shared, cells, { name: '/Book', form: 0x0500 }))).toEqual([['Мор', '2031-03-03']])
  }) // prettier-ignore

  test('with a password, or older, is told so', async () => {
    const locked = { code: 'document-locked' }
    await expect(rowsOfSpreadsheet(workbook(record(0x2f, short(1, 1)), []))).rejects.toMatchObject(locked)
    await expect(rowsOfSpreadsheet(workbook([], [], { form: 0x0400 }))).rejects.toMatchObject(locked)
  })

  test('that is damaged ends in a sentence, or in what could be read', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 40 }), fc.nat(), async (changes, cut) => {
        const damaged = hire.slice(0, cut % 4 === 0 ? cut % hire.length : hire.length)
        for (const [at, value] of changes) if (damaged.length > 0) damaged[at % damaged.length] = value
        const answer = await rowsOfSpreadsheet(damaged).catch((error: unknown) => error)
        expect(answer instanceof Problem || Array.isArray(answer) || answer === null).toBe(true)
      }),
      { numRuns: 300 },
    )
  }) // prettier-ignore
})
