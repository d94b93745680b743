import type { Looks } from './looks'
import { type BinaryParts, lastUpTo, partAt, placesIn } from './parts'

/** A stretch of text that is kept in one place ([MS-DOC] §2.9.177). */
interface Piece {
  readonly start: number
  readonly end: number
  readonly place: number
  /** Bytes of a letter. */
  readonly wide: 1 | 2
}

const narrow = new TextDecoder('windows-1252')
const broad = new TextDecoder('utf-16le', { ignoreBOM: true })

/** Where the text of a document is, letter by letter ([MS-DOC] §2.4.1). */
export class Text {
  readonly #pieces: Piece[] = []
  readonly #starts: number[]
  /** Letters that may still be read. */
  #left: number

  constructor(private readonly parts: BinaryParts) {
    const { table, main } = parts
    const { at, length } = partAt(parts, 33)
    let place = at
    // What was changed since it was last saved as a whole comes first.
    while (place < at + length && table.byte(place) === 1) place += 3 + table.short(place + 1)
    if (table.byte(place) !== 2) throw new RangeError('No table of pieces')
    const { places, dataAt } = placesIn(parts, { at: place + 5, length: table.long(place + 1) }, 8)
    let letters = 0
    for (let nth = 0; nth + 1 < places.length; nth++) {
      const [start, end] = [places[nth]!, places[nth + 1]!]
      const found = table.long(dataAt + 8 * nth + 2)
      const isNarrow = (found & 0x40000000) !== 0
      const where = found & 0x3fffffff
      if (end < start) throw new RangeError('Pieces out of order')
      letters += end - start
      this.#pieces.push({ start, end, place: isNarrow ? where >> 1 : where, wide: isNarrow ? 1 : 2 })
    }
    // Nothing is kept twice, or a small document would be an endless one.
    if (letters > main.size) throw new RangeError('Pieces over one another')
    this.#left = letters
    this.#starts = this.#pieces.map(({ start }) => start)
  }

  #pieceAt(nth: number): Piece | undefined {
    const piece = this.#pieces[lastUpTo(this.#starts, nth)]
    return piece && nth < piece.end ? piece : undefined
  }

  /** The place of a letter in the main stream. */
  placeOf(nth: number): number | null {
    const piece = this.#pieceAt(nth)
    return piece ? piece.place + (nth - piece.start) * piece.wide : null
  }

  /** Letters from one to another, as many as there are: signs that are none among them. */
  read(from: number, to: number): string {
    let text = ''
    for (let nth = from; nth < to;) {
      const piece = this.#pieceAt(nth)
      if (!piece) break
      const end = Math.min(to, piece.end)
      // Each is read once: notes over one another would make a small document an endless one.
      this.#left -= end - nth
      if (this.#left < 0) throw new RangeError('Texts over one another')
      const at = piece.place + (nth - piece.start) * piece.wide
      const bytes = this.parts.main.all.subarray(at, at + (end - nth) * piece.wide)
      text += (piece.wide === 1 ? narrow : broad).decode(bytes)
      nth = end
    }
    return text
  }

  /** The stretch around a letter that looks alike, to where it ends. */
  stretch(
    looks: Looks,
    nth: number,
  ): { readonly from: number; readonly to: number; readonly end: number } | null {
    const piece = this.#pieceAt(nth)
    const place = this.placeOf(nth)
    if (!piece || place === null) return null
    const { from, to, end } = looks.at(place)
    const last = piece.start + Math.ceil((end - piece.place) / piece.wide)
    return { from, to, end: Math.max(nth + 1, Math.min(piece.end, last)) }
  }
}
