import Papa from 'papaparse'
import { escapeText } from '#core/markup'

type Row = readonly string[]

/** Rows of a text that were copied as such are no more. */
const mostPasted = 5_000

/** The rows of a text whose lines are parted by tabs, as often in each: how a spreadsheet hands over what was chosen. Null for any other. */
export function rowsInText(text: string): string[][] | null {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n+$/, '').split('\n')
  if (lines.length < 2 || lines.length > mostPasted || !lines[0]!.includes('\t')) return null
  const rows = lines.map((line) => line.split('\t').map((cell) => cell.trim()))
  const isTable = rows.every(({ length }) => length === rows[0]!.length)
  // What is only indented has nothing in front of its tabs.
  return isTable &&
    rows.every((row) => row.some((cell) => cell !== '')) &&
    rows.some(([first]) => first !== '')
    ? rows
    : null
}

/** The rows of a file of values that are parted by commas, semicolons or tabs (RFC 4180). */
export const rowsOfValues = (text: string): string[][] =>
  Papa.parse<string[]>(text.trimEnd(), { skipEmptyLines: 'greedy' }).data

/** Whether a row names what stands below it: words in each cell, no two alike, no numbers; but for the first cell, which may be empty. */
function areHeads([first = '', ...others]: Row): boolean {
  const all = first === '' ? others : [first, ...others]
  return (
    others.length > 0 &&
    all.every((cell) => /\p{L}/u.test(cell) && !/^\d/.test(cell) && cell.length <= 80) &&
    new Set(all).size === all.length
  )
}

/**
 * Rows as a table of HTML (§4.9): a first row of names becomes heads, and where its first cell is empty the first column, too. Short
 * rows are filled up with empty cells, and columns that say nothing go.
 */
export function htmlOfRows(all: readonly Row[]): string {
  const given = all.filter((row) => row.some((cell) => cell.trim() !== ''))
  const width = given.reduce((most, { length }) => Math.max(most, length), 0)
  const shown = Array.from({ length: width }, (_, at) => at).filter((at) =>
    given.some((row) => (row[at] ?? '').trim() !== ''),
  )
  const rows = given.map((row) => shown.map((at) => (row[at] ?? '').replace(/\s+/gu, ' ').trim()))
  const [first, ...rest] = rows
  if (!first) return ''
  const isHead = rest.length > 0 && areHeads(first)
  const namesRows = isHead && first[0] === ''
  const cells = (row: Row, tagOf: (at: number) => string) =>
    `<tr>${row.map((cell, at) => (cell === '' ? `<td></td>` : `<${tagOf(at)}>${escapeText(cell)}</${tagOf(at).split(' ')[0]}>`)).join('')}</tr>` // prettier-ignore
  const head = isHead ? `<thead>${cells(first, () => 'th scope="col"')}</thead>` : ''
  const body = (isHead ? rest : rows).map((row) =>
    cells(row, (at) => (namesRows && at === 0 ? 'th scope="row"' : 'td')),
  )
  return `<table>${head}<tbody>${body.join('')}</tbody></table>`
}
