import { made, type Node } from './nodes'

/** Cells of a row that are defined, at most. */
const mostCells = 200

/** A table on its way: its cells as they end, and which of them go on with the one before ("Table Definitions" of the specification). */
export class RichTable {
  #rows: Node[] = []
  #cells: Node[] = []
  #inCell: Node[] = []
  #merged: boolean[] = []
  #merges = false

  /** A row's cells are defined anew. */
  define(): void {
    this.#merged = []
  }

  /** The cell that is defined next goes on with the one before. */
  merge(): void {
    this.#merges = true
  }

  defined(): void {
    if (this.#merged.length < mostCells) this.#merged.push(this.#merges)
    this.#merges = false
  }

  add(paragraph: Node): void {
    this.#inCell.push(paragraph)
  }

  endCell(): void {
    this.#cells.push(made('td', {}, this.#inCell))
    this.#inCell = []
  }

  endRow(): void {
    const cells: Node[] = []
    for (const [at, cell] of this.#cells.entries()) {
      const before = cells[cells.length - 1]
      if (!this.#merged[at] || !before) cells.push(cell)
      else before.attributes.colspan = String(Number(before.attributes.colspan ?? 1) + 1)
    }
    if (cells.length > 0) this.#rows.push(made('tr', {}, cells))
    this.#cells = []
  }

  /** The table, if there is one; another begins after it. */
  take(): Node | null {
    // A text that is cut off ends in a cell.
    if (this.#inCell.length > 0) this.endCell()
    this.endRow()
    const rows = this.#rows
    this.#rows = []
    return rows.length > 0 ? made('table', {}, rows) : null
  }
}
