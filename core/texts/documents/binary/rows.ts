import { propertiesIn } from './looks'
import type { BinaryParts, Bytes } from './parts'

/** A cell as the row that it stands in defines it. */
export interface BinaryCell {
  /** Where it ends, in twentieths of a point. */
  readonly right: number
  goesOn: boolean
  vertical: 'begins' | 'goes on' | null
}

/** A row of a table: its cells, from left to right, and whether it is repeated at the top of each page. */
export interface BinaryRow {
  readonly cells: readonly BinaryCell[]
  readonly isHead: boolean
}

/** Columns of a row, at most ([MS-DOC] §2.9.323). */
const mostColumns = 63
/** Bytes of what is said of a cell ([MS-DOC] §2.9.315). */
const cellBytes = 20
const [definition, head, merged, mergedDown] = [0xd608, 0x3404, 0x5624, 0xd62b]
/** Properties that are too many for their place are in the stream `Data` ([MS-DOC] §2.6.2). */
const elsewhere = new Set([0x6646, 0x646b])

/** The row that ends with a paragraph of these properties. */
export function rowIn(parts: BinaryParts, from: number, to: number): BinaryRow {
  const row = { cells: [] as BinaryCell[], isHead: false }
  read(row, parts.main, from, to, (at) => {
    const { data } = parts
    if (at + 2 <= data.size) read(row, data, at + 2, Math.min(data.size, at + 2 + data.short(at)), () => {})
  })
  return row
}

function read(
  row: { cells: BinaryCell[]; isHead: boolean },
  bytes: Bytes,
  from: number,
  to: number,
  lookAt: (place: number) => void,
): void {
  for (const { code, at } of propertiesIn(bytes, from, to)) {
    if (code === definition) row.cells = cellsAt(bytes, at)
    else if (code === head) row.isHead = bytes.byte(at) !== 0
    else if (code === merged) {
      // The cells from one to before another ([MS-DOC] §2.9.116).
      const end = Math.min(row.cells.length, bytes.byte(at + 1))
      for (let nth = bytes.byte(at) + 1; nth < end; nth++) row.cells[nth]!.goesOn = true
    } else if (code === mergedDown) {
      const cell = row.cells[bytes.byte(at)]
      if (cell) cell.vertical = downward(bytes.byte(at + 1))
    } else if (elsewhere.has(code)) lookAt(bytes.long(at))
  }
}

/** What a cell's number for it says ([MS-DOC] §2.9.342). */
const downward = (number: number): BinaryCell['vertical'] =>
  number === 1 ? 'goes on' : number === 3 ? 'begins' : null

/** The cells of a definition: how many edges there are, where, and what is said of each cell ([MS-DOC] §2.9.323). */
function cellsAt(bytes: Bytes, at: number): BinaryCell[] {
  const end = at + 2 + bytes.short(at) - 1
  const count = Math.min(mostColumns, bytes.byte(at + 2))
  const cells: BinaryCell[] = []
  for (let nth = 0; nth < count; nth++) {
    const saidAt = at + 3 + 2 * (count + 1) + cellBytes * nth
    // Of the last cells nothing need be said.
    const flags = saidAt + 2 <= end ? bytes.short(saidAt) : 0
    const right = bytes.signedShort(at + 3 + 2 * (nth + 1))
    cells.push({ right, goesOn: (flags & 3) === 1, vertical: downward((flags >> 5) & 3) })
  }
  return cells
}
