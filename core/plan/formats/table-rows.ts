import { cleanLabel, pageDetails, type PageDetails, type PlanLine, type PlanRefusal } from '../outline'
import { detailIn, no, yes } from './details'
import { type Column, columns } from './columns'

/** A row of a table, and the line of its text that it begins on, from 1. */
export interface TableRow {
  readonly cells: readonly string[]
  readonly line: number
}

/** Lines of a plan, or why there are none; and what was assumed. */
export type Read = { readonly lines: readonly PlanLine[] | PlanRefusal; readonly notes: readonly string[] }

export const plainNode = (label: string) => ({ label, trial: false, inMenus: true })

/** A cell that a spreadsheet would run as a formula is written behind an apostrophe, as they take it for text. */
const plainCell = (cell: string) => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell)
export const cellAt = ({ cells }: TableRow, at: number): string => plainCell((cells[at] ?? '').trim())

/** Asks rows for the cell of a column by its kind; '' where there is none. */
export const asking =
  (header: readonly string[]) =>
  (row: TableRow, name: Column): string =>
    cellAt(row, header.indexOf(name))
export type Ask = ReturnType<typeof asking>

/** The column that a detail stands in. */
const columnOf = (name: keyof PageDetails) => (name === 'ownName' ? 'own name' : name)

/** What a row says of a page beside what it is called and where it stands. */
export function detailsOf(row: TableRow, ask: Ask): Omit<PlanLine['node'], 'label'> {
  const details = Object.fromEntries(
    pageDetails
      .map((name) => [name, detailIn(name, cleanLabel(ask(row, columnOf(name))))])
      .filter(([, value]) => value !== null),
  ) as PageDetails
  return {
    trial: yes.test(ask(row, 'trial')),
    inMenus: !no.test(ask(row, 'in menus')),
    ...(Object.keys(details).length > 0 && { details }),
  }
}

const isYesOrNo = (cell: string) => yes.test(cell) || no.test(cell)
/** Columns of which not everything can be read: what a cell has to be, and how that is said of those that are not. */
const asked = [
  ['trial', 'neither yes nor no', isYesOrNo],
  ['in menus', 'neither yes nor no', isYesOrNo],
  ['dated', 'neither yes nor no', isYesOrNo],
  ['language', 'no language', (cell: string) => detailIn('language', cell) !== null],
  ['date', 'no date', (cell: string) => detailIn('date', cell) !== null],
] as const

/** Cells that say nothing that can be where they are asked, each once with the first line it stands on; as many as are read. */
export function unclear(rows: readonly TableRow[], header: readonly string[]): string[] {
  return asked.flatMap(([name, what, isSaid]) => {
    const at = header.indexOf(name)
    if (at < 0) return []
    const found = new Map<string, number>()
    for (const row of rows) {
      const cell = cellAt(row, at)
      if (cell !== '' && !isSaid(cell) && !found.has(cell)) found.set(cell, row.line)
    }
    const told = [...found].slice(0, 3).map(([cell, line]) => `“${cleanLabel(cell)}” (line ${line})`)
    const more = found.size > told.length ? ', and others' : ''
    return told.length > 0 ? [`In “${name}”, ${what}, and passed over: ${told.join(', ')}${more}.`] : []
  })
}

/** Columns of which nothing was read. */
export function leftOut(
  { cells }: TableRow,
  header: readonly string[],
  isTaken: (name: string, at: number) => boolean,
): string[] {
  const names = cells
    .map((cell) => cell.trim())
    .filter((name, at) => name !== '' && !isTaken(header[at]!, at))
  return names.length > 0 ? [`Left out: ${names.map((name) => `“${name}”`).join(', ')}.`] : []
}
export const isDetail = (name: string) => (columns as readonly string[]).includes(name) && name !== 'level'

/** A page of a tree that is being read. */
export interface Draft {
  readonly line: number
  readonly node: PlanLine['node']
  readonly below: Draft[]
}

/** A tree as lines, each as far in as it is deep. */
export function linesOf(top: readonly Draft[]): PlanLine[] {
  const lines: PlanLine[] = []
  const open = [[...top].reverse()]
  while (open.length > 0) {
    const next = open[open.length - 1]!.pop()
    if (!next) {
      open.pop()
      continue
    }
    lines.push({ line: next.line, columns: open.length, node: next.node })
    open.push([...next.below].reverse())
  }
  return lines
}
