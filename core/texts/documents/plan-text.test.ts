import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { Problem } from '#core/problems'
import { openDocument, openSheet, p, pack, wordDocument, workbook } from '../../testing/documents'
import { planInDocument } from './index'

const rows = [
  ['Section', 'Page', 'Note'],
  ['Visit', '', ''],
  ['', 'Crossings & <tides>', 'twice a day'],
  [],
  ['', 'Fares', 1.1],
  ['Stay'],
]
const asText = 'Section\tPage\tNote\nVisit\n\tCrossings & <tides>\ttwice a day\n\tFares\t1.1\nStay'

describe('a spreadsheet', () => {
  test.each([
    ['with texts that are shared', workbook(rows)],
    ['with texts in their cells', workbook(rows, false)],
    ['in OpenDocument', openSheet(rows)],
  ])('%s: the first sheet that is shown and not empty, its rows parted by tabs', async (_, bytes) => {
    expect(await planInDocument(bytes)).toEqual({ text: asText, isTable: true })
  })

  test('cells say what they said', async () => {
    const cell = fc
      .string({ unit: 'grapheme', maxLength: 12 })
      // What XML cannot hold is written otherwise, and spaces in a cell are one.
      .filter((text) => !/[\p{C}\ufffe\uffff]|_x[0-9a-f]{4}_/iu.test(text) && text.trim() !== '')
      .map((text) => text.replace(/\s+/gu, ' ').trim())
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(cell, { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 8 }), fc.boolean(), async (all, isShared) => {
        const text = all.map((row) => row.join('\t')).join('\n')
        expect((await planInDocument(workbook(all, isShared))).text).toBe(text)
        expect((await planInDocument(openSheet(all))).text).toBe(text)
      }),
      { numRuns: 60 },
    ) // prettier-ignore
  })

  test('digits that only binary numbers have, signs by their numbers, faults of formulas and cells without a place', async () => {
    const sheet =
      '<row><c><v>1.1000000000000001</v></c><c t="str"><v>a_x0009_b</v></c><c t="e"><v>#REF!</v></c><c t="s"><v>99</v></c><c t="b"><v>1</v></c></row>'
    const bytes = pack({
      'xl/workbook.xml': '<workbook xmlns:r="r"><sheets><sheet r:id="s"/></sheets></workbook>',
      'xl/_rels/workbook.xml.rels':
        '<Relationships><Relationship Id="s" Target="worksheets/one.xml"/></Relationships>',
      'xl/worksheets/one.xml': `<worksheet><sheetData>${sheet}</sheetData></worksheet>`,
    })
    expect((await planInDocument(bytes)).text).toBe('1.1\ta b\t\t\t1')
  })
})

test('times, days and shares of a workbook are shown as its formats show them', async () => {
  const cells = ['0.375', '46117', '0.25', '4.5', '7', '0.5'].map((value, style) => `<c s="${style}"><v>${value}</v></c>`).join('') // prettier-ignore
  const book = (more = '', style = '') =>
    pack({
      'xl/workbook.xml': `<workbook xmlns:r="r"><workbookPr ${more}/><sheets><sheet r:id="s"/></sheets></workbook>`,
      'xl/_rels/workbook.xml.rels':
        '<Relationships><Relationship Id="s" Target="worksheets/one.xml"/></Relationships>',
      'xl/styles.xml': `<styleSheet><numFmts><numFmt numFmtId="170" formatCode="d mmm yyyy"/><numFmt numFmtId="171" formatCode="0.00&quot; m&quot;"/><numFmt numFmtId="172" formatCode="bad[["/></numFmts><cellStyleXfs><xf numFmtId="9"/></cellStyleXfs><cellXfs>${[20, 170, 9, 171, 172].map((id) => `<xf numFmtId="${id}"/>`).join('')}${style}</cellXfs></styleSheet>`,
      'xl/worksheets/one.xml': `<worksheet><sheetData><row>${cells}</row></sheetData></worksheet>`,
    }) // prettier-ignore
  expect((await planInDocument(book())).text).toBe('9:00\t5 Apr 2026\t25%\t4.50 m\t7\t0.5')
  expect((await planInDocument(book('date1904="1"'))).text).toContain('6 Apr 2030')
  expect((await planInDocument(book('', '<xf numFmtId="10"/>'))).text).toMatch(/\t50\.00%$/)
})

describe('a document', () => {
  const item = (level: number, words: string) =>
    `<text:list-item>${'<text:list><text:list-item>'.repeat(level)}<text:p>${words}</text:p>${'</text:list-item></text:list>'.repeat(level)}</text:list-item>`
  const heading = (level: number, words: string) => `<text:h text:outline-level="${level}">${words}</text:h>`
  test.each([
    ['lists stand below the headings that they stand under', openDocument(`${heading(1, 'Visit')}<text:p>Soon.</text:p><text:list>${item(0, 'Crossings')}${item(1, 'Summer')}</text:list>${heading(1, 'Stay')}`), 'Visit\n  Crossings\n    Summer\nStay'],
    ['headings alone', wordDocument(p('Titel', 'Our site') + p('b1', 'Visit') + p('', 'Soon.') + p('b2', 'Crossings') + p('b1', 'Stay')), 'Visit\n  Crossings\nStay'],
    ['what is written, a line a paragraph', wordDocument(p('', 'Visit: Crossings, Fares') + p('', '') + p('', 'Stay: Rooms, Food')), 'Visit: Crossings, Fares\nStay: Rooms, Food'],
  ])('%s', async (_, bytes, text) => {
    expect(await planInDocument(bytes)).toEqual({ text, isTable: false })
  }) // prettier-ignore

  test('a table is its rows', async () => {
    const cell = (words: string) => `<table:table-cell><text:p>${words}</text:p></table:table-cell>`
    const row = (...all: string[]) => `<table:table-row>${all.map(cell).join('')}</table:table-row>`
    const bytes = openDocument(
      `<table:table>${row('Section', 'Page')}${row('Visit', 'Crossings')}</table:table>`,
    )
    expect(await planInDocument(bytes)).toEqual({ text: 'Section\tPage\nVisit\tCrossings', isTable: true })
    // Below headings it is of what they are about.
    const among = openDocument(
      `${heading(1, 'Visit')}<table:table>${row('Day', 'Opens')}${row('Monday', '9')}</table:table>${heading(1, 'Stay')}`,
    )
    expect(await planInDocument(among)).toEqual({ text: 'Visit\nStay', isTable: false })
  })
})

test('what is damaged ends in a sentence, or in what could be read', async () => {
  const whole = [workbook(rows), openSheet(rows)]
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...whole), fc.array(fc.tuple(fc.nat(), fc.nat(255)), { maxLength: 12 }), fc.nat(), async (bytes, changes, cut) => {
      const damaged = bytes.slice(0, cut % 3 === 0 ? cut % bytes.length : bytes.length)
      for (const [at, value] of changes) if (damaged.length > 0) damaged[at % damaged.length] = value
      const answer = await planInDocument(damaged).catch((error: unknown) => error)
      expect(answer instanceof Problem || typeof (answer as { text?: unknown }).text === 'string').toBe(true)
    }),
    { numRuns: 400 },
  ) // prettier-ignore
  await expect(planInDocument(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).rejects.toThrow('no document')
})
