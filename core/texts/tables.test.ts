import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type HtmlNode, isElement, parseHtml, rowsOf, walkHtml } from '#core/markup'
import { cleanHtml, htmlOfRows, pageOfFile, rowsInText } from './index'

/** What the cells of the only table say, row by row. */
function saidIn(html: string): string[][] {
  const said: string[][] = []
  walkHtml(parseHtml(html, false).root, (node) => {
    if (!isElement(node) || node.tagName !== 'table') return
    const wordsOf = (cell: HtmlNode) => {
      let words = ''
      walkHtml(cell, (one) => (words += one.nodeName === '#text' && 'value' in one ? one.value : ''))
      return words
    }
    said.push(...rowsOf(node).map((row) => row.map(wordsOf)))
  })
  return said
}
const tableOf = (rows: readonly (readonly string[])[]) => cleanHtml(htmlOfRows(rows)).replace(/\n\s*/g, '')

describe('rows become a table', () => {
  test('a first row of names is heads; an empty corner makes heads of the first column, too', () => {
    expect(tableOf([['Day', 'Opens'], ['Monday', '9:00'], ['Sunday', '']])).toBe(
      '<table><thead><tr><th scope="col">Day</th><th scope="col">Opens</th></tr></thead><tbody><tr><td>Monday</td><td>9:00</td></tr><tr><td>Sunday</td><td></td></tr></tbody></table>',
    )
    expect(tableOf([['', 'Summer'], ['Monday', '9 & 10']])).toBe(
      '<table><thead><tr><td></td><th scope="col">Summer</th></tr></thead><tbody><tr><th scope="row">Monday</th><td>9 &amp; 10</td></tr></tbody></table>',
    )
  }) // prettier-ignore

  test.each([
    ['with a number in it', [['Day', '2026'], ['Monday', '9']]],
    ['with two that are alike', [['Opens', 'Opens'], ['8', '9']]],
    ['with one that is empty', [['Day', ''], ['Monday', '9']]],
    ['with nothing below it', [['Day', 'Opens']]],
  ])('a first row %s names nothing', (_, rows) => {
    expect(tableOf(rows)).not.toContain('<th')
  }) // prettier-ignore

  test('columns that say nothing go, and rows that do; short ones are filled up', () => {
    expect(tableOf([['1', '', '3'], ['', ' '], ['4']])).toBe(
      '<table><tbody><tr><td>1</td><td>3</td></tr><tr><td>4</td><td></td></tr></tbody></table>',
    )
    expect(htmlOfRows([[''], []])).toBe('')
  })

  test('whatever cells say stands in the table, cell by cell', () => {
    const cell = fc.constantFrom('', '<b>', '&amp;', '</table>', 'Tides & more', '9:00', '"')
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 4 }), { maxLength: 5 }), (rows) => {
        const width = Math.max(0, ...rows.map(({ length }) => length))
        const columns = Array.from({ length: width }, (_, at) => at).filter((at) =>
          rows.some((row) => (row[at] ?? '') !== ''),
        )
        const said = rows.filter((row) => row.some(Boolean)).map((row) => columns.map((at) => row[at] ?? ''))
        expect(saidIn(htmlOfRows(rows))).toEqual(said)
      }),
      { numRuns: 300 },
    )
  })
})

test('text with as many tabs in each line is rows', () => {
  expect(rowsInText('Day\tOpens\r\nMonday\t9:00\r\n')).toEqual([['Day', 'Opens'], ['Monday', '9:00']]) // prettier-ignore
  for (const text of ['one\ttwo', 'a\tb\nc', '\tindented\n\ttwice', 'a\tb\n\nc\td', '<ul>\n\t<li>a</li>\n</ul>', 'plain\nlines'])
    expect(rowsInText(text)).toBeNull() // prettier-ignore
})

test('a file of values is a page with their table', () => {
  const page = pageOfFile('tide_times.csv', '\ufeffDay;High\r\nMonday;"3:10; 15:40"\r\n\r\n')
  expect(page.label).toBe('Tide times')
  expect(page.html.replace(/\n\s*/g, '')).toBe(
    '<table><thead><tr><th scope="col">Day</th><th scope="col">High</th></tr></thead><tbody><tr><td>Monday</td><td>3:10; 15:40</td></tr></tbody></table>',
  )
})

describe('what a spreadsheet puts on the clipboard', () => {
  const copied = (inside: string) =>
    `<html><head><style>.xl65{font-weight:700}</style></head><body><table border=0>\n<!--StartFragment-->\n<!-- of its own --> <col width=64>\n${inside}<!--EndFragment-->\n</table></body></html>`
  test('rows that were chosen within their table are a table', () => {
    const html = cleanHtml(copied('<tr><td class=xl65>Day</td><td class=xl65>Opens</td></tr><tr><td>Monday</td><td align=right>9:00</td></tr>')) // prettier-ignore
    expect(html.replace(/\n\s*/g, '')).toBe(
      '<table><thead><tr><th scope="col">Day</th><th scope="col">Opens</th></tr></thead><tbody><tr><td>Monday</td><td>9:00</td></tr></tbody></table>',
    )
  })
  test('one cell is its words', () => {
    expect(cleanHtml('<td><svg><td>a')).toBe('')
    expect(cleanHtml(copied('<tr><td>Monday</td></tr>'))).toBe('<p>Monday</p>')
  })
  test('marks without an end, and comments without one, end', () => {
    expect(cleanHtml(`<p>a</p>${'<!--StartFragment-->'.repeat(50_000)}`)).toBe('<p>a</p>')
    expect(cleanHtml(`<!--StartFragment-->${'<!--'.repeat(100_000)}<!--EndFragment-->`)).toBe('')
    expect(cleanHtml(`<!--StartFragment-->${'<!---->'.repeat(50_000)}<p>a</p><!--EndFragment-->`)).toBe('<p>a</p>') // prettier-ignore
  })
})
