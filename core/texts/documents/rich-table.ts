import { made, type Node } from './nodes'

/** Cells of a row that are defined, at most. */
const mostCells = 200
/** Columns and rows that a cell goes over, at most (HTML Living Standard, section 4.9.11). */
const mostSpanned = { colspan: 1000, rowspan: 65_534 }
/** Edges as near to each other in different rows are one, in twentieths of a point: no letter has room between them. */
const sameEdge = 100

/** How a cell is defined ("Table Definitions" of the specification). */
interface Definition {
  /** Where it ends, in twentieths of a point from the margin. */
  readonly right: number
  /** Whether it goes on with the cell before. */
  readonly goesOn: boolean
  /** Whether those below it go on with it, or it with the one above. */
  readonly vertical: 'begins' | 'goes on' | null
}

interface Cell {
  readonly node: Node
  readonly vertical: Definition['vertical']
  /** Where it begins and ends; nothing is known of those that are not defined. */
  readonly left: number | null
  right: number | null
  /** How many cells it was made of. */
  parts: number
  /** The column that it begins in, and the one after it. */
  column: number
  end: number
  rowspan: number
}

interface Row {
  readonly cells: readonly Cell[]
  readonly isHead: boolean
}

/** A table on its way: its cells as they end, and how each row of them is defined. */
export class RichTable {
  #rows: Row[] = []
  #cells: Node[] = []
  #inCell: Node[] = []
  #defined: Definition[] = []
  #isHead = false
  #goesOn = false
  #vertical: Definition['vertical'] = null

  /** A row's cells are defined anew. */
  define(): void {
    this.#defined = []
    this.#isHead = false
  }

  /** The row is one of the table's head. */
  head(): void {
    this.#isHead = true
  }

  /** The cell that is defined next goes on with the one before. */
  merge(): void {
    this.#goesOn = true
  }

  /** The cell that is defined next goes on with the one above, or is the first of those that do. */
  mergeDown(vertical: Definition['vertical']): void {
    this.#vertical = vertical
  }

  /** @param right where the cell ends, in twentieths of a point */
  defined(right: number): void {
    if (this.#defined.length < mostCells)
      this.#defined.push({ right, goesOn: this.#goesOn, vertical: this.#vertical })
    this.#goesOn = false
    this.#vertical = null
  }

  add(paragraph: Node): void {
    this.#inCell.push(paragraph)
  }

  endCell(): void {
    this.#cells.push(made('td', {}, this.#inCell))
    this.#inCell = []
  }

  endRow(): void {
    const cells: Cell[] = []
    for (const [at, node] of this.#cells.entries()) {
      const { right = null, goesOn = false, vertical = null } = this.#defined[at] ?? {}
      const before = cells[cells.length - 1]
      if (goesOn && before) {
        before.parts += 1
        before.right = right
      } else {
        const left = at === 0 ? -Infinity : (this.#defined[at - 1]?.right ?? null)
        cells.push({ node, vertical, left, right, parts: 1, column: 0, end: 1, rowspan: 1 })
      }
    }
    if (cells.length > 0) this.#rows.push({ cells, isHead: this.#isHead })
    this.#cells = []
  }

  /** The table, if there is one; another begins after it. */
  take(): Node | null {
    // A text that is cut off ends in a cell.
    if (this.#inCell.length > 0) this.endCell()
    this.endRow()
    const rows = this.#rows
    this.#rows = []
    return rows.length > 0 ? tableOf(rows) : null
  }
}

/** The table of rows whose cells say where they end: those that end alike stand below each other. */
function tableOf(rows: readonly Row[]): Node {
  const columnAt = columnsOf(rows)
  for (const { cells } of rows) {
    let column = 0
    for (const cell of cells) {
      cell.column = columnAt ? columnAt(cell.left!) : column
      column += cell.parts
      cell.end = columnAt ? columnAt(cell.right!) : column
      span(cell.node, 'colspan', cell.end - cell.column)
    }
  }
  const lines = joinDown(rows)
  const firstOfBody = lines.findIndex(({ isHead }) => !isHead)
  const parts = (tag: string) => ({ cells }: Row) => made('tr', {}, cells.map(({ node: { attributes, children } }) => made(tag, attributes, children))) // prettier-ignore
  // A table that is a head and nothing else has none.
  const head = lines.slice(0, Math.max(0, firstOfBody)).map(parts('th'))
  const body = lines.slice(head.length).map(parts('td'))
  return head.length === 0
    ? made('table', {}, body)
    : made('table', {}, [made('thead', {}, head), made('tbody', {}, body)])
}

function span(node: Node, attribute: 'colspan' | 'rowspan', spanned: number): void {
  if (spanned > 1) node.attributes[attribute] = String(Math.min(spanned, mostSpanned[attribute]))
}

/**
 * Which column an edge begins, or ends the one before; null where some cells do not say where they end. A column in which no
 * cell begins is none.
 */
function columnsOf(rows: readonly Row[]): ((edge: number) => number) | null {
  const begins = new Map<number, boolean>()
  let narrowest = Infinity
  for (const { cells } of rows)
    for (const { left, right } of cells) {
      if (left === null || right === null || right <= left) return null
      if (left !== -Infinity) narrowest = Math.min(narrowest, right - left)
      begins.set(left, true)
      begins.set(right, begins.get(right) ?? false)
    }
  // Those of one row are never taken for one.
  const same = Math.min(sameEdge, narrowest / 2)
  const columns = new Map<number, number>()
  let [column, first, isColumn] = [0, -Infinity, false]
  for (const edge of [...begins.keys()].sort((one, other) => one - other)) {
    if (edge - first > same) {
      column += isColumn ? 1 : 0
      first = edge
      isColumn = false
    }
    isColumn ||= begins.get(edge)!
    columns.set(edge, column)
  }
  return (edge) => columns.get(edge)!
}

/** Rows with those cells alone that begin in them; a row in which none does is none. */
function joinDown(rows: readonly Row[]): readonly Row[] {
  const begun = new Map<number, Cell>()
  const joined = rows.flatMap(({ cells, isHead }) => {
    const above = ({ vertical, column, end }: Cell) => {
      const over = vertical === 'goes on' ? begun.get(column) : undefined
      return over?.end === end ? over : undefined
    }
    const own = cells.filter((cell) => !above(cell))
    if (own.length === 0) return []
    for (const cell of cells) {
      const over = above(cell)
      if (over) over.rowspan += 1
      else if (cell.vertical === 'begins') begun.set(cell.column, cell)
      else begun.delete(cell.column)
    }
    return [{ cells: own, isHead }]
  })
  for (const { cells } of joined) for (const { node, rowspan } of cells) span(node, 'rowspan', rowspan)
  return joined
}
