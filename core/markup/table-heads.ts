import { type HtmlElement, type HtmlNode, isElement } from './tree'
import { wordsIn } from './words'

/** A cell of data that may be a head: where its start tag's name begins, and its end tag's; null without one. */
export interface HeadCell {
  readonly nameAt: number
  readonly endNameAt: number | null
  /** Whether it says already what it would be a head of. */
  readonly hasScope?: true
}

/** Cells of a table without heads that could be those of its columns, and of its rows. */
export interface TableHeads {
  readonly row: readonly HeadCell[]
  readonly column: readonly HeadCell[]
  /** Which of them reads like heads; null where neither does. */
  readonly likely: 'row' | 'column' | null
}

/** Cells of the largest table whose heads are looked for, and heads that are kept of one. */
const mostCells = 2_000
const mostHeads = 300
/** Letters of a cell that are looked at. */
const longestRead = 60

/** A table's rows in order, each with its cells; those of tables within it aside. */
export function rowsOf(table: HtmlElement): HtmlElement[][] {
  const within = (node: HtmlElement, names: RegExp) =>
    node.childNodes.filter((one: HtmlNode): one is HtmlElement => isElement(one) && names.test(one.tagName))
  return within(table, /^(thead|tbody|tfoot|tr)$/)
    .flatMap((part) => (part.tagName === 'tr' ? [part] : within(part, /^tr$/)))
    .map((row) => within(row, /^(td|th)$/))
    .filter((cells) => cells.length > 0)
}

/** What could be the heads of a table; null for one with none to choose, or too many. */
export function headsIn(table: HtmlElement): TableHeads | null {
  const rows = rowsOf(table)
  const [first, ...rest] = rows
  if (!first || rows.reduce((count, row) => count + row.length, 0) > mostCells) return null
  const said = (cell: HtmlElement | undefined) => (cell ? wordsIn(cell, longestRead) : '')
  const isCounted = (cell: HtmlElement | undefined) => /\d/.test(said(cell))
  const cellOf = (cell: HtmlElement): HeadCell[] => {
    const { attrs, sourceCodeLocation: where } = cell
    // An empty corner heads nothing.
    if (!where?.startTag || said(cell) === '') return []
    const hasScope = attrs.some(({ name }) => name === 'scope')
    return [
      {
        nameAt: where.startTag.startOffset + 1,
        endNameAt: where.endTag ? where.endTag.startOffset + 2 : null,
        ...(hasScope && { hasScope }),
      },
    ]
  }
  const namesAll = (cells: readonly HtmlElement[]) =>
    cells.every((cell) => said(cell) !== '' && !isCounted(cell))
  const half = rest.length / 2
  const counts = first.some((_, at) => rest.filter((row) => isCounted(row[at])).length > half)
  // The corner above what the rows are called is often empty.
  const isRow = namesAll(said(first[0]) === '' ? first.slice(1) : first) && counts
  const isColumn = namesAll(rows.map((row) => row[0]!)) && first.slice(1).some(isCounted)
  const row = first.flatMap(cellOf)
  const column = rows.flatMap(([cell]) => cellOf(cell!))
  if (row.length + column.length > mostHeads) return null
  return {
    row,
    column,
    likely: isRow ? 'row' : isColumn ? 'column' : null,
  }
}
