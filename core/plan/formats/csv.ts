import Papa from 'papaparse'
import { tableOf } from '#core/site'
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

/** What the columns are called in spreadsheets of others. */
const alsoCalled: Readonly<Record<string, Column | 'parent'>> = tableOf({
  page: 'label',
  pages: 'label',
  'page name': 'label',
  name: 'label',
  'menu entry': 'label',
  depth: 'level',
  'page title': 'title',
  'meta description': 'description',
  summary: 'description',
  slug: 'own name',
  under: 'parent',
  'parent page': 'parent',
  parent: 'parent',
})

/** The columns of a header as they are called here; two of one kind are not taken for one. */
function headerOf(cells: readonly string[]): readonly string[] {
  const given = cells.map((cell) => cell.trim().toLowerCase())
  return given.map((name) => {
    const meant = alsoCalled[name]
    return meant !== undefined &&
      !given.includes(meant) &&
      given.find((one) => alsoCalled[one] === meant) === name
      ? meant
      : name
  })
}

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

/** Rows in the order of the tree that a column of parents tells, and how deep each stands; a row whose parent is none ends it. */
function byParent(
  rows: readonly { readonly line: number; readonly node: PlanLine['node']; readonly parent: string }[],
): PlanLine[] | { readonly refusal: PlanRefusal } {
  const key = (label: string) => label.toLowerCase()
  const byLabel = new Map<string, number>()
  for (const [index, { node }] of rows.entries())
    if (!byLabel.has(key(node.label))) byLabel.set(key(node.label), index)
  const below = rows.map((): number[] => [])
  const top: number[] = []
  for (const [index, { line, node, parent }] of rows.entries()) {
    const above = parent === '' ? null : byLabel.get(key(parent))
    if (above === undefined)
      return {
        refusal: { line, reason: `“${node.label}” stands under “${parent}”, and no row has that label.` },
      }
    ;(above === null ? top : below[above]!).push(index)
  }
  const lines: PlanLine[] = []
  const open = [top.reverse()]
  while (open.length > 0) {
    const index = open[open.length - 1]!.pop()
    if (index === undefined) {
      open.pop()
      continue
    }
    const { line, node } = rows[index]!
    lines.push({ line, columns: open.length, node })
    open.push(below[index]!.reverse())
  }
  const reached = new Set(lines.map(({ line }) => line))
  const lost = rows.find(({ line }) => !reached.has(line))
  return lost
    ? {
        refusal: {
          line: lost.line,
          reason: `“${lost.node.label}” stands under itself, by way of its parents.`,
        },
      }
    : lines
}

/**
 * Reads a plan from CSV (RFC 4180; a semicolon or a tab between values is taken too). With a header
 * that has `label` and `level`, by those columns; without one, the column a row begins in is its level.
 */
export function readCsvPlan(text: string): Outline | { refusal: PlanRefusal } {
  // Line ends may be mixed; in a value they come to a space in any case.
  const unified = tableRows(text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n'))
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
  const header = headerOf(first.cells)
  const at = (name: Column | 'parent') => header.indexOf(name)
  const notes: string[] = []
  if (delimiter !== ',')
    notes.push(`Values are taken as parted by ${delimiter === '\t' ? 'tabs' : `“${delimiter}”`}.`)
  let lines: PlanLine[] = []
  if (at('label') >= 0) {
    const isByParent = at('level') < 0 && at('parent') >= 0
    const parents: string[] = []
    if (at('level') < 0 && !isByParent && rest.length > 0)
      notes.push('There is no column “level”, so every page stands at the top.')
    const isTaken = (name: string) =>
      (columns as readonly string[]).includes(name) || (isByParent && name === 'parent')
    const ignored = header.filter((name) => name !== '' && !isTaken(name))
    if (ignored.length > 0) notes.push(`Left out: ${ignored.map((name) => `“${name}”`).join(', ')}.`)
    for (const { cells, line } of rest) {
      const cell = (name: Column | 'parent') => plainCell((cells[at(name)] ?? '').trim())
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
      if (isByParent) parents.push(cleanLabel(cell('parent')))
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
    if (isByParent) {
      const placed = byParent(lines.map((one, index) => ({ ...one, parent: parents[index]! })))
      if ('refusal' in placed) return placed
      lines = placed
    }
  } else {
    notes.push('There is no header with “label”, so the column a row begins in is taken as its level.')
    if ([first, ...rest].some(({ cells }) => cells.filter((cell) => cell.trim() !== '').length > 1))
      notes.push('Of each row the first value is taken as the label, and the others are left out.')
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
