import { boxHeight, type Diagram, type View } from './diagram-layout'

/** The part of the diagram that one sheet shows at a readable size: landscape paper less its margins, at 96 dpi. */
export const sheetSize = { width: 1040, height: 700 }

interface Span {
  readonly from: number
  readonly to: number
}

/**
 * Pieces of a length, none longer than `most`, so that every span no longer than that lies whole in
 * one of them: where an edge would cut some, the next piece begins before them.
 */
export function piecesOf(start: number, end: number, spans: readonly Span[], most: number): Span[] {
  const pieces: Span[] = []
  for (let from = start; ;) {
    const to = Math.min(end, from + most)
    pieces.push({ from, to })
    if (to === end) return pieces
    const cut = spans.filter((span) => span.from < to && to < span.to).map((span) => span.from)
    const next = Math.min(to, ...cut)
    // A span longer than a piece is cut all the same.
    from = next > from ? next : to
  }
}

/** The views of a diagram at its own size, row by row, each box whole on one of them; one that holds none is left out. */
export function sheetsOf(diagram: Diagram, sheet = sheetSize): View[] {
  const { x, y, width, height } = diagram.bounds
  const columns = piecesOf(
    x,
    x + width,
    diagram.boxes.map((box) => ({ from: box.x, to: box.x + box.width })),
    sheet.width,
  )
  const rows = piecesOf(
    y,
    y + height,
    diagram.boxes.map((box) => ({ from: box.y - boxHeight / 2, to: box.y + boxHeight / 2 })),
    sheet.height,
  )
  return rows.flatMap((row) =>
    columns
      .filter((column) =>
        diagram.boxes.some(
          (box) => box.x >= column.from && box.x < column.to && box.y >= row.from && box.y < row.to,
        ),
      )
      .map((column) => ({ x: column.from, y: row.from, ...sheet })),
  )
}
