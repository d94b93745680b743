import CFB from 'cfb'
import { Problem } from '#core/problems'
import { decoded } from '../rich-tokens'
import { mostColumns, mostLetters, mostRows, Sheet, type Show, showingBy } from '../sheet'
import { Bytes } from './parts'

/** Records that are read, by their numbers ([MS-XLS] §2.3.1). */
const record = {
  formula: 0x0006, end: 0x000a, from1904: 0x0022, lock: 0x002f, continued: 0x003c, codePage: 0x0042, sheet: 0x0085,
  manyRk: 0x00bd, richLabel: 0x00d6, style: 0x00e0, texts: 0x00fc, textCell: 0x00fd, number: 0x0203, label: 0x0204,
  truth: 0x0205, formulaText: 0x0207, rk: 0x027e, format: 0x041e, begin: 0x0809,
} // prettier-ignore
/** Of the begin of a part: which form it has (§2.4.21); the older one is of 1995. */
const [newForm, oldForm] = [0x0600, 0x0500]

/** A record: its number, and where its data are. */
interface Found {
  readonly kind: number
  readonly at: number
  readonly size: number
}

/** Records from a place on, up to the end of the part that they are of, or of the stream. */
function* recordsFrom(stream: Bytes, start: number): Generator<Found> {
  let depth = 0
  for (let at = start; at + 4 <= stream.size;) {
    const [kind, size] = [stream.short(at), stream.short(at + 2)]
    if (at + 4 + size > stream.size) return
    yield { kind, at: at + 4, size }
    // A chart in a sheet is a part within one.
    if (kind === record.begin) depth += 1
    if (kind === record.end && --depth <= 0) return
    at += 4 + size
  }
}

/** Reads texts that go on in the records after the one that they begin in (§2.5.294, §2.5.296). */
class Pieces {
  #piece = 0
  #at: number

  constructor(
    private readonly stream: Bytes,
    private readonly pieces: readonly Found[],
  ) {
    this.#at = pieces[0]!.at
  }

  /** Bytes that are left in the record that it stands in. */
  get #left(): number {
    const { at, size } = this.pieces[this.#piece]!
    return at + size - this.#at
  }
  get isOver(): boolean {
    while (this.#left <= 0) if (!this.#next()) return true
    return false
  }
  #next(): boolean {
    if (this.#piece + 1 >= this.pieces.length) return false
    this.#at = this.pieces[++this.#piece]!.at
    return true
  }
  byte(): number {
    if (this.isOver) throw new RangeError('over')
    return this.stream.byte(this.#at++)
  }
  short(): number {
    return this.byte() + 0x100 * this.byte()
  }
  long(): number {
    return this.short() + 0x10000 * this.short()
  }
  skip(count: number): void {
    for (let left = count; left > 0 && !this.isOver;) {
      const some = Math.min(left, this.#left)
      this.#at += some
      left -= some
    }
  }
  /** Letters, of one byte or two each: where a text goes on in another record, that says anew how many they have. */
  letters(count: number, flags: number): string {
    let [text, isWide] = ['', (flags & 1) === 1]
    for (let left = count; left > 0; left--) {
      if (this.#left <= 0) {
        if (!this.#next()) break
        isWide = (this.byte() & 1) === 1
      }
      const letter = isWide ? this.short() : this.byte()
      if (text.length < mostLetters) text += String.fromCharCode(letter)
    }
    return text
  }
  /** A text with its length in two bytes, and what may follow it: how its letters look and are spoken. */
  text(): string {
    const [count, flags] = [this.short(), this.byte()]
    const runs = flags & 8 ? this.short() : 0
    const spoken = flags & 4 ? this.long() : 0
    const text = this.letters(count, flags)
    this.skip(4 * runs + spoken)
    return text
  }
}

/** A number in four bytes (§2.5.217): a whole one or the front of one with a point, of hundredths or not. */
function numberOfRk(bits: number): number {
  const view = new DataView(new ArrayBuffer(8))
  view.setUint32(0, bits & ~3)
  const value = bits & 2 ? (bits | 0) >> 2 : view.getFloat64(0)
  return bits & 1 ? value / 100 : value
}

/** What all sheets of a workbook share. */
interface Workbook {
  readonly stream: Bytes
  readonly isNew: boolean
  readonly codePage: number
  readonly texts: readonly string[]
  readonly show: Show
  /** Where sheets begin that are shown. */
  readonly sheets: readonly number[]
}

/** A text of the form of 1995, whose letters are bytes of a code page; of the one after it, of letters. */
function textAt(
  { stream, isNew, codePage }: Pick<Workbook, 'stream' | 'isNew' | 'codePage'>,
  { at, size }: Omit<Found, 'kind'>,
): string {
  if (isNew) return new Pieces(stream, [{ kind: 0, at, size }]).text()
  return decoded(
    stream.all.subarray(at + 2, at + 2 + Math.min(stream.short(at), size - 2, mostLetters)),
    codePage,
    null,
  )
}

function readWorkbook(stream: Bytes): Workbook {
  const isNew = stream.short(4) === newForm
  if (stream.short(0) !== record.begin || (!isNew && stream.short(4) !== oldForm))
    throw new Problem('document-locked')
  const codes = new Map<string, string>()
  const styles: string[] = []
  const sheets: number[] = []
  const texts: string[] = []
  let [codePage, isFrom1904] = [1252, false]
  let shared: Found[] | null = null
  for (const found of recordsFrom(stream, 0)) {
    const { kind, at, size } = found
    if (kind === record.lock) throw new Problem('document-locked')
    if (kind === record.codePage) codePage = stream.short(at)
    if (kind === record.from1904) isFrom1904 = stream.short(at) === 1
    if (kind === record.style) styles.push(String(stream.short(at + 2)))
    if (kind === record.format) {
      const code = isNew
        ? textAt({ stream, isNew, codePage }, { at: at + 2, size: size - 2 })
        : decoded(stream.all.subarray(at + 3, at + 3 + stream.byte(at + 2)), codePage, null)
      codes.set(String(stream.short(at)), code)
    }
    // Shown, and a sheet: no chart, and no macros (§2.4.28).
    if (kind === record.sheet && (stream.byte(at + 4) & 3) === 0 && stream.byte(at + 5) === 0)
      sheets.push(stream.long(at))
    if (kind === record.texts) shared = [found]
    else if (kind === record.continued) shared?.push(found)
    else if (shared) {
      readShared(stream, shared, texts)
      shared = null
    }
  }
  const idOf = (style: number) => styles[style] ?? '0'
  const show = showingBy({ idOf, codeOf: (style) => codes.get(idOf(style)) ?? null, isFrom1904 })
  return { stream, isNew, codePage, texts, show, sheets }
}

/** Texts that cells name by their number (§2.4.265). One that is damaged ends them: those before it are whole. */
function readShared(stream: Bytes, records: readonly Found[], texts: string[]): void {
  const pieces = new Pieces(stream, records)
  pieces.skip(8)
  try {
    while (!pieces.isOver) texts.push(pieces.text())
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
  }
}

/** The rows of a sheet that starts at a place of the stream, and where it ends. */
function readSheet(
  workbook: Workbook,
  start: number,
): { readonly rows: readonly string[][]; readonly end: number } {
  const { stream, texts, show } = workbook
  const rows = new Map<number, string[]>()
  const put = (row: number, column: number, value: string) => {
    if (column >= mostColumns || value === '') return
    let cells = rows.get(row)
    if (!cells) {
      if (rows.size > mostRows) throw new Problem('document-too-large')
      rows.set(row, (cells = []))
    }
    while (cells.length < column) cells.push('')
    cells[column] = value
  }
  const double = (at: number) =>
    String(new DataView(stream.all.buffer, stream.all.byteOffset + at, 8).getFloat64(0, true))
  const truth = (value: number, isError: boolean) => (isError ? '' : value === 1 ? '1' : '0')
  /** The cell whose formula comes to a text, which follows. */
  let waiting: { readonly row: number; readonly column: number } | null = null
  let [depth, end] = [0, start]
  for (const { kind, at, size } of recordsFrom(stream, start)) {
    end = at + size
    if (kind === record.begin) depth += 1
    if (kind === record.end) depth -= 1
    if (depth !== 1 || size < 4) continue
    const [row, column] = [stream.short(at), stream.short(at + 2)]
    const style = () => stream.short(at + 4)
    switch (kind) {
      case record.number:
        put(row, column, show(double(at + 6), style()))
        break
      case record.rk:
        put(row, column, show(String(numberOfRk(stream.long(at + 6))), style()))
        break
      case record.manyRk:
        for (let each = 0; each < (size - 6) / 6 && column + each < mostColumns; each++) {
          const cell = at + 4 + 6 * each
          put(row, column + each, show(String(numberOfRk(stream.long(cell + 2))), stream.short(cell)))
        }
        break
      case record.textCell:
        put(row, column, texts[stream.long(at + 6)] ?? '')
        break
      case record.label:
      case record.richLabel:
        put(row, column, textAt(workbook, { at: at + 6, size: size - 6 }))
        break
      case record.truth:
        put(row, column, truth(stream.byte(at + 6), stream.byte(at + 7) === 1))
        break
      case record.formula:
        // What it came to when it was saved (§2.5.133).
        if (stream.short(at + 12) !== 0xffff) put(row, column, show(double(at + 6), style()))
        else if (stream.byte(at + 6) === 0) waiting = { row, column }
        else if (stream.byte(at + 6) === 1) put(row, column, truth(stream.byte(at + 8), false))
        break
      case record.formulaText:
        if (waiting) put(waiting.row, waiting.column, textAt(workbook, { at, size }))
        waiting = null
    }
  }
  const sheet = new Sheet()
  for (const [, cells] of [...rows].sort(([one], [two]) => one - two)) sheet.add(cells)
  return { rows: sheet.rows, end }
}

/**
 * The rows of a spreadsheet of the binary form ([MS-XLS], and the one of 1995 before it), as `rowsOfSpreadsheet` tells them;
 * null for a document of another kind.
 * @throws Problem `document-locked`, `document-too-large`; RangeError for one that is damaged
 */
export function rowsOfWorkbook(bytes: Uint8Array): readonly string[][] | null {
  const found = CFB.read(bytes, { type: 'array' })
  const content = (CFB.find(found, '/Workbook') ?? CFB.find(found, '/Book'))?.content
  if (!content) return null
  const workbook = readWorkbook(new Bytes(Uint8Array.from(content)))
  let read = 0
  for (const start of workbook.sheets) {
    const { rows, end } = readSheet(workbook, start)
    if (rows.length > 0) return rows
    // Sheets do not lie in one another: what says so is not read over and over.
    read += end - start
    if (read > workbook.stream.size) break
  }
  return []
}
