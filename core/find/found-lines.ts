import { Lines, type Range } from '#core/markup'

/** A place that was found, with what stands around it on its lines. */
export interface FoundLine {
  /** From 1. */
  readonly line: number
  readonly before: string
  readonly found: string
  readonly after: string
}

/** Letters shown on either side. */
const mostAround = 60
const mostFound = 200

const onOneLine = (text: string) => text.replace(/\s+/g, ' ')

/** What was found in one text. */
export interface FoundWords {
  readonly count: number
  /** The first of them. */
  readonly lines: readonly FoundLine[]
}

/** Places of a text with their lines and what stands around them. */
export function foundLines(text: string, places: readonly Range[]): FoundLine[] {
  const lines = new Lines(text)
  return places.map(({ start, end }) => {
    const lineStart = text.lastIndexOf('\n', start - 1) + 1
    const next = text.indexOf('\n', end)
    const lineEnd = next < 0 ? text.length : next
    const from = Math.max(lineStart, start - mostAround)
    const to = Math.min(lineEnd, end + mostAround)
    return {
      line: lines.placeOf(start).line,
      before: (from > lineStart ? '…' : '') + onOneLine(text.slice(from, start).toWellFormed()).trimStart(),
      found: onOneLine(text.slice(start, Math.min(end, start + mostFound))),
      after: onOneLine(text.slice(end, to).toWellFormed()).trimEnd() + (to < lineEnd ? '…' : ''),
    }
  })
}
