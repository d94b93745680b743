import { cleanLabel, mostLevels, nestLines, type Outline, type PlanLine, type PlanRefusal } from '../outline'
import { type Column, headerOf, levelColumns, outlineDepth } from './columns'
import {
  asking,
  type Ask,
  cellAt,
  detailsOf,
  type Draft,
  isDetail,
  leftOut,
  linesOf,
  plainNode,
  type Read,
  type TableRow,
  unclear,
} from './table-rows'
import { byWays } from './table-ways'

/** Rows under the rows that they stand below; one that stands under itself ends it. */
function underParents(
  rows: readonly Omit<Draft, 'below'>[],
  parentOf: (index: number) => number | null,
): PlanLine[] | PlanRefusal {
  const drafts = rows.map((row): Draft => ({ ...row, below: [] }))
  const top: Draft[] = []
  for (const [index, draft] of drafts.entries()) {
    const parent = parentOf(index)
    ;(parent === null ? top : drafts[parent]!.below).push(draft)
  }
  const lines = linesOf(top)
  if (lines.length === drafts.length) return lines
  const reached = new Set(lines.map(({ node }) => node))
  const { line, node } = drafts.find((draft) => !reached.has(draft.node))!
  return { line, reason: `“${node.label}” stands under itself, by way of its parents.` }
}

/** The first row of each key. */
function firstOf(keys: readonly string[]): Map<string, number> {
  const first = new Map<string, number>()
  for (const [index, key] of keys.entries()) if (key !== '' && !first.has(key)) first.set(key, index)
  return first
}

/** By a column that names the row each stands under, by its label or by what a column of ids calls it. */
function byParents(rows: readonly TableRow[], drafts: readonly Omit<Draft, 'below'>[], ask: Ask) {
  const ids = firstOf(rows.map((row) => ask(row, 'id')))
  const labels = firstOf(drafts.map(({ node }) => node.label.toLowerCase()))
  const parents = rows.map((row) => cleanLabel(ask(row, 'parent')))
  const found = parents.map((parent) =>
    // A root of ids is often said to be under none by a nought.
    parent === '' || (parent === '0' && ids.size > 0)
      ? null
      : (ids.get(parent) ?? labels.get(parent.toLowerCase())),
  )
  const lost = found.indexOf(undefined)
  if (lost < 0) return underParents(drafts, (index) => found[index]!)
  const { line, node } = drafts[lost]!
  const missing = ids.size > 0 ? 'that id or label' : 'that label'
  return { line, reason: `“${node.label}” stands under “${parents[lost]!}”, and no row has ${missing}.` }
}

/** The folders of an address, and its name without what it ends with. */
function stepsOf(address: string): readonly string[] {
  const path = address.replace(/^[a-z][a-z0-9+.-]*:\/\/[^/]*/i, '').replace(/[?#].*$/, '')
  const steps = path.split('/').filter((step) => step !== '' && step !== '.')
  const last = steps.pop()?.replace(/\.[a-z][a-z0-9]{1,4}$/i, '')
  const all = last === undefined || /^(index|default|home)$/i.test(last) ? steps : [...steps, last]
  return all.slice(0, mostLevels)
}

/** By addresses: each under the one whose address its own begins with, the longest of several. */
function byAddresses(rows: readonly TableRow[], drafts: readonly Omit<Draft, 'below'>[], ask: Ask) {
  const steps = rows.map((row) => (ask(row, 'address') === '' ? null : stepsOf(ask(row, 'address'))))
  const places = new Map<string, number>()
  for (const [index, some] of steps.entries()) {
    const key = some?.join('/')
    if (key !== undefined && !places.has(key)) places.set(key, index)
  }
  return underParents(drafts, (index) => {
    const own = steps[index]
    if (!own) return null
    // What stands beside a home page in its folder is not below it.
    for (let length = own.length - 1; length > 0; length--) {
      const above = places.get(own.slice(0, length).join('/'))
      if (above !== undefined) return above
    }
    return null
  })
}

/** The depths that outline numbers tell; null where cells are none, or only count. */
function depthsOf(cells: readonly string[]): number[] | null {
  const depths = cells.map(outlineDepth)
  return depths.some((depth) => depth !== null && depth > 1) && depths.every((depth) => depth !== null)
    ? depths
    : null
}

/** Reads rows under a header that says which column a page is called in. */
function byLabels(first: TableRow, header: readonly string[], all: readonly TableRow[]): Read {
  const ask = asking(header)
  const has = (name: Column) => header.includes(name)
  const rows = all.filter((row) => cleanLabel(ask(row, 'label')) !== '')
  const drafts = rows.map((row) => ({
    line: row.line,
    node: { label: cleanLabel(ask(row, 'label')), ...detailsOf(row, ask) },
  }))
  const read = (by: Column | null, lines: Read['lines'], ...notes: string[]): Read => ({
    lines,
    notes: [
      ...notes,
      ...leftOut(
        first,
        header,
        (name) => isDetail(name) || name === by || (name === 'id' && by === 'parent'),
      ),
      ...unclear(rows, header),
    ],
  })
  if (has('level')) {
    const levels = rows.map((row) => (ask(row, 'level') === '' ? 1 : Number(ask(row, 'level'))))
    const wrong = levels.findIndex((level) => !Number.isInteger(level) || level < 0)
    if (wrong < 0) return read('level', drafts.map((draft, at) => ({ ...draft, columns: levels[at]! }))) // prettier-ignore
    const { line, node } = drafts[wrong]!
    const level = ask(rows[wrong]!, 'level')
    return read('level', {
      line,
      reason: `The level of “${node.label}” is “${level}”; it has to be a whole number.`,
    })
  }
  if (has('parent')) return read('parent', byParents(rows, drafts, ask))
  const depths = depthsOf(rows.map((row) => ask(row, 'number')))
  if (depths)
    return read('number', drafts.map((draft, at) => ({ ...draft, columns: depths[at]! })), 'Levels were read from the numbers in front of the labels.') // prettier-ignore
  if (rows.some((row) => ask(row, 'address').includes('/')))
    return read('address', byAddresses(rows, drafts, ask), 'Levels were read from the addresses.')
  const flat = drafts.map((draft) => ({ ...draft, columns: 1 }))
  return rows.length > 1
    ? read(null, flat, 'There is no column “level”, so every page stands at the top.')
    : read(null, flat)
}

/** Rows with a number in front of each, but for the first, perhaps: as deep as that says, or all at the top. Null for others. */
function byNumbersInFront([first, ...rest]: readonly TableRow[]): Read | null {
  const labels = rest[0]?.cells.findIndex((cell, at) => at > 0 && /\p{L}/u.test(cell)) ?? -1
  const isNumbered = (row: TableRow) => outlineDepth(cellAt(row, 0)) !== null
  if (labels < 0 || rest.length < 2 || !rest.every(isNumbered)) return null
  const told = isNumbered(first!) ? [first!, ...rest] : rest
  const numbers = told.map((row) => cellAt(row, 0))
  const depths = depthsOf(numbers) ?? levelsOf(numbers)
  return {
    lines: told.flatMap((row, index): PlanLine[] => {
      const label = cleanLabel(cellAt(row, labels))
      return label === '' ? [] : [{ line: row.line, columns: depths?.[index] ?? 1, node: plainNode(label) }]
    }),
    notes: [
      depths
        ? 'Levels were read from the numbers in front of the labels.'
        : 'The numbers in front of the labels count them, so every page stands at the top.',
      ...(told === rest ? ['The first row was taken as the names of the columns.'] : []),
    ],
  }
}

/** What nothing in the first row tells of: the columns' names in a language that is not known here, perhaps, or no names at all. */
function withoutHeader(rows: readonly TableRow[]): Read {
  const numbered = byNumbersInFront(rows)
  if (numbered) return numbered
  const deep = saidAgain(rows)
  if (deep > 0)
    return byWays(
      { cells: [], line: 1 },
      [],
      rows,
      Array.from({ length: deep + 1 }, (_, at) => at),
    )
  const lines = rows.flatMap((row): PlanLine[] => {
    const begins = row.cells.findIndex((cell) => cell.trim() !== '')
    const label = cleanLabel(cellAt(row, begins))
    return label === '' ? [] : [{ line: row.line, columns: begins, node: plainNode(label) }]
  })
  const hasMore = rows.some(({ cells }) => cells.filter((cell) => cell.trim() !== '').length > 1)
  return {
    lines,
    notes: [
      'There is no header with “label”, so the column a row begins in is taken as its level.',
      ...(hasMore ? ['Of each row the first value is taken as the label, and the others are left out.'] : []),
    ],
  }
}

/** Cells as levels: none deeper than one below the row above, and not what rows are counted with. Null where they are none. */
function levelsOf(cells: readonly string[]): number[] | null {
  const levels = cells.map((cell) => (/^\d{1,2}$/.test(cell) ? Number(cell) : -1))
  const kinds = new Set(levels).size
  const areLevels =
    kinds > 1 &&
    kinds < levels.length &&
    levels.every((level, index) => level >= 0 && level <= (index === 0 ? 1 : levels[index - 1]! + 1))
  return areLevels ? levels : null
}

/** How many columns from the first on say again what the row above says, while what follows is another: the sections of pages. */
function saidAgain(rows: readonly TableRow[]): number {
  if (rows.some((row) => cellAt(row, 0) === '')) return 0
  let deep = 0
  for (const [index, row] of rows.entries()) {
    const before = rows[index - 1]
    if (!before) continue
    let same = 0
    while (cellAt(row, same) !== '' && cellAt(row, same) === cellAt(before, same)) same++
    if (cellAt(row, same) !== '') deep = Math.max(deep, same)
  }
  return deep
}

const filledIn = (cells: readonly string[]): number => cells.filter((cell) => cell.trim() !== '').length

/** Rows that a title and the like may take above a header. */
const mostAbove = 5

/** How many rows of a single cell stand above the names of columns that are known here. */
function rowsAboveHeader(rows: readonly TableRow[]): number {
  const at = rows.slice(0, mostAbove + 1).findIndex(({ cells }) => filledIn(cells) > 1)
  if (at < 1) return 0
  const { cells } = rows[at]!
  const header = headerOf(cells)
  return header.includes('label') || levelColumns(header, cells).length > 0 ? at : 0
}

/**
 * Reads a plan from a table. By its header where that has what is known here: a label, and a level, a parent, a number or an address;
 * or columns of one level each. Without one by what the rows are like, in the end by the column that each begins in.
 */
export function readTable(rows: readonly TableRow[]): Outline | { readonly refusal: PlanRefusal } {
  const filled = rows.filter(({ cells }) => filledIn(cells) > 0)
  const above = rowsAboveHeader(filled)
  const [first, ...rest] = filled.slice(above)
  if (!first) return { refusal: { line: 1, reason: 'The file is empty.' } }
  const header = headerOf(first.cells)
  const isPlaced = header.includes('level') || header.includes('parent')
  const levels = isPlaced ? [] : levelColumns(header, first.cells)
  const { lines, notes } =
    levels.length > 0
      ? byWays(first, header, rest, levels)
      : header.includes('label')
        ? byLabels(first, header, rest)
        : withoutHeader([first, ...rest])
  if ('reason' in lines) return { refusal: lines }
  if (lines.length === 0) return { refusal: { line: 1, reason: 'No row has a label.' } }
  const nested = nestLines(lines)
  const ofRows = above > 0 ? ['What stands above the names of the columns was left out.'] : []
  return { ...nested, notes: [...ofRows, ...notes, ...nested.notes] }
}
