import { format, getFormatFromId, isDateFormat } from 'numfmt'
import { Problem } from '#core/problems'

/** Rows that have something in them, columns, and letters of a cell, at most. */
export const mostRows = 100_000
export const mostColumns = 60
export const mostLetters = 2_000

/** The cells of a sheet, row by row: empty ones at the end of a row, and rows of nothing else, left out. */
export class Sheet {
  readonly rows: string[][] = []

  add(cells: readonly string[]): void {
    const row = cells.map((cell) => cell.replace(/\s+/gu, ' ').trim())
    while (row.length > 0 && row.at(-1) === '') row.pop()
    if (row.length === 0) return
    if (this.rows.push(row) > mostRows) throw new Problem('document-too-large')
  }
}

/** A number without the digits that only binary numbers have. */
const asNumber = (text: string): string => (text === '' ? '' : String(Number(Number(text).toPrecision(15))))

/** A longer format code than programs take (§18.8.31). */
const longestCode = 255
/** Days between the two days that workbooks count from (§18.17.4.1). */
const daysFrom1904 = 1_462

/** Shows numbers of cells as their formats do: times and days are numbers too (§18.8.30). */
export type Show = (number: string, style: number) => string

/** How a workbook's numbers are shown. */
interface Formats {
  /** The number of the format of a cell's style, as the workbook or the standard knows it. */
  readonly idOf: (style: number) => string
  /** The code of one that the workbook tells itself; null where the standard does. */
  readonly codeOf: (style: number) => string | null
  readonly isFrom1904: boolean
}

export const showingBy =
  ({ idOf, codeOf, isFrom1904 }: Formats): Show =>
  (number, style) => {
    const code = codeOf(style) ?? getFormatFromId(Number(idOf(style))) ?? 'General'
    const value = Number(number)
    if (number === '' || code === 'General' || code.length > longestCode || !Number.isFinite(value))
      return asNumber(number)
    try {
      return format(code, isFrom1904 && isDateFormat(code) ? value + daysFrom1904 : value)
    } catch {
      // A code that is none.
      return asNumber(number)
    }
  }
