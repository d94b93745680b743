import Papa from 'papaparse'
import {
  cleanLabel,
  nestLines,
  type Outline,
  type OutlineNode,
  type PageDetails,
  type PlanLine,
  type PlanRefusal,
  walkOutline,
} from '../outline'

const columns = ['level', 'label', 'trial', 'in menus', 'own name', 'title', 'description'] as const
type Column = (typeof columns)[number]
const yes = /^(yes|y|true|1|x)$/i

/**
 * Reads a plan from CSV (RFC 4180; a semicolon or a tab between values is taken too). With a header
 * that has `label` and `level`, by those columns; without one, the column a row begins in is its level.
 */
export function readCsvPlan(text: string): Outline | { refusal: PlanRefusal } {
  // Line ends may be mixed; in a value they come to a space in any case.
  const unified = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n')
  // What parts values is guessed from rows that have some; empty ones are kept for their line numbers.
  const { delimiter } = Papa.parse(unified, { newline: '\n', skipEmptyLines: 'greedy', preview: 100 }).meta
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
  const [first, ...rest] = parsed.data
    .map((cells, index) => ({ cells, line: lineOf[index]! }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  if (!first) return { refusal: { line: 1, reason: 'The file is empty.' } }
  const header = first.cells.map((cell) => cell.trim().toLowerCase())
  const at = (name: Column) => header.indexOf(name)
  const notes: string[] = []
  if (delimiter !== ',')
    notes.push(`Values are taken as parted by ${delimiter === '\t' ? 'tabs' : `“${delimiter}”`}.`)
  const lines: PlanLine[] = []
  if (at('label') >= 0) {
    if (at('level') < 0 && rest.length > 0)
      notes.push('There is no column “level”, so every page stands at the top.')
    const ignored = header.filter((name) => name !== '' && !(columns as readonly string[]).includes(name))
    if (ignored.length > 0) notes.push(`Left out: ${ignored.map((name) => `“${name}”`).join(', ')}.`)
    for (const { cells, line } of rest) {
      const cell = (name: Column) => plainCell((cells[at(name)] ?? '').trim())
      const label = cleanLabel(cell('label'))
      if (label === '') continue
      const level = cell('level') === '' ? 1 : Number(cell('level'))
      if (!Number.isInteger(level) || level < 0)
        return {
          refusal: {
            line,
            reason: `The level of “${label}” is “${cell('level')}”; it has to be a whole number.`,
          },
        }
      const details = Object.fromEntries(
        (
          [
            ['ownName', 'own name'],
            ['title', 'title'],
            ['description', 'description'],
          ] as const
        )
          .map(([key, name]) => [key, cleanLabel(cell(name))])
          .filter(([, value]) => value !== ''),
      ) as PageDetails
      lines.push({
        line,
        columns: level,
        node: {
          label,
          trial: yes.test(cell('trial')),
          inMenus: cell('in menus') === '' || yes.test(cell('in menus')),
          ...(Object.keys(details).length > 0 && { details }),
        },
      })
    }
  } else {
    notes.push('There is no header with “label”, so the column a row begins in is taken as its level.')
    for (const { cells, line } of [first, ...rest]) {
      const columnsIn = cells.findIndex((cell) => cell.trim() !== '')
      const label = cleanLabel(plainCell((cells[columnsIn] ?? '').trim()))
      if (label !== '') lines.push({ line, columns: columnsIn, node: { label, trial: false, inMenus: true } })
    }
  }
  if (lines.length === 0) return { refusal: { line: 1, reason: 'No row has a label.' } }
  const nested = nestLines(lines)
  return { ...nested, notes: [...notes, ...nested.notes] }
}

/** A cell that a spreadsheet would run as a formula is written behind an apostrophe, as they take it for text. */
const safeCell = (cell: string) => (/^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell)
const plainCell = (cell: string) => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell)

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

/** Writes a plan as CSV with a header, `\r\n` between rows as RFC 4180 §2 has it. */
export function writeCsvPlan(nodes: readonly OutlineNode[]): string {
  const rows = walkOutline(nodes).map(({ node, depth }) => [
    String(depth + 1),
    node.label,
    node.trial ? 'yes' : '',
    node.inMenus ? 'yes' : 'no',
    node.details?.ownName ?? '',
    node.details?.title ?? '',
    node.details?.description ?? '',
  ])
  const data = rows.map((row) => row.map(safeCell))
  return Papa.unparse({ fields: [...columns], data }, { newline: '\r\n' }) + '\r\n'
}
