import Papa from 'papaparse'
import { type Outline, type OutlineNode, type PlanRefusal, walkOutline } from '../outline'
import { columns, rareColumns } from './columns'
import { readTable } from './table'

/** A table as Markdown writes it, as rows parted by tabs: its line of dashes comes out empty. */
function tableRows(text: string): string {
  const lines = text.split('\n')
  if (!lines[0]!.trimStart().startsWith('|')) return text
  return lines
    .map((line) => {
      const inner = line.trim()
      if (/^\|[\s:|-]*$/.test(inner)) return ''
      return inner
        .slice(inner.startsWith('|') ? 1 : 0, inner.endsWith('|') ? -1 : undefined)
        .replaceAll('|', '\t')
    })
    .join('\n')
}

/** What parts the values of rows: tabs where two lines have some, since spreadsheets copy rows so, else what is guessed from rows that have values. */
function delimiterOf(text: string): string {
  const first = text.indexOf('\t')
  const next = first < 0 ? -1 : text.indexOf('\n', first)
  if (next >= 0 && text.includes('\t', next)) return '\t'
  const { delimiter } = Papa.parse(text, { newline: '\n', skipEmptyLines: 'greedy', preview: 100 }).meta
  return !text.includes(delimiter) && text.includes('\t') ? '\t' : delimiter
}

/** Reads a plan from CSV (RFC 4180; a semicolon or a tab between values is taken too), and from a table in Markdown. */
export function readCsvPlan(text: string): Outline | { refusal: PlanRefusal } {
  // Line ends may be mixed; in a value they come to a space in any case.
  const unified = tableRows(text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n'))
  const delimiter = delimiterOf(unified)
  const parsed = Papa.parse<string[]>(unified, { newline: '\n', delimiter })
  const lineOf = linesOfRows(unified)
  const broken = parsed.errors.find((error) => error.type === 'Quotes')
  if (broken)
    return {
      refusal: {
        line: lineOf[broken.row ?? 0] ?? 1,
        reason: 'A quotation mark is opened and not closed.',
      },
    }
  const read = readTable(parsed.data.map((cells, index) => ({ cells, line: lineOf[index]! })))
  // A comma is what the format has, a tab is nothing else; the rest is a guess that is told.
  if ('refusal' in read || delimiter === ',' || delimiter === '\t') return read
  return { ...read, notes: [`Values are taken as parted by “${delimiter}”.`, ...read.notes] }
}

/** A cell that a spreadsheet would run as a formula is written behind an apostrophe, as they take it for text. */
const safeCell = (cell: string) => (/^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell)

/** The line of the text each row begins on, from 1: values may hold line breaks. Line ends are `\n`. */
function linesOfRows(text: string): number[] {
  const lines = [1]
  let line = 1
  let quoted = false
  for (const sign of text) {
    if (sign === '"') quoted = !quoted
    if (sign !== '\n') continue
    line += 1
    if (!quoted) lines.push(line)
  }
  return lines
}

/** What a plan says of a page in a column. */
const cells: Readonly<Record<(typeof columns)[number], (node: OutlineNode, depth: number) => string>> = {
  level: (_, depth) => String(depth + 1),
  label: ({ label }) => label,
  trial: ({ trial }) => (trial ? 'yes' : ''),
  'in menus': ({ inMenus }) => (inMenus ? 'yes' : 'no'),
  'own name': ({ details }) => details?.ownName ?? '',
  title: ({ details }) => details?.title ?? '',
  description: ({ details }) => details?.description ?? '',
  language: ({ details }) => details?.language ?? '',
  dated: ({ details }) => (details?.dated === undefined ? '' : details.dated ? 'yes' : 'no'),
  date: ({ details }) => details?.date ?? '',
}

/** Writes a plan as CSV with a header, `\r\n` between rows as RFC 4180 §2 has it. What few plans say has a column where one does. */
export function writeCsvPlan(nodes: readonly OutlineNode[]): string {
  const rows = walkOutline(nodes)
  const isSaid = (column: (typeof columns)[number]) =>
    !rareColumns.includes(column) || rows.some(({ node, depth }) => cells[column](node, depth) !== '')
  const fields = columns.filter(isSaid)
  const data = rows.map(({ node, depth }) => fields.map((column) => safeCell(cells[column](node, depth))))
  return Papa.unparse({ fields, data }, { newline: '\r\n' }) + '\r\n'
}
