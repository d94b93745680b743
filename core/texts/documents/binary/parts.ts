import CFB from 'cfb'
import { Problem } from '#core/problems'

/** Bytes of a stream, little-endian; a read beyond its end throws RangeError, as `DataView` does. */
export class Bytes {
  readonly #view: DataView

  constructor(readonly all: Uint8Array) {
    this.#view = new DataView(all.buffer, all.byteOffset, all.byteLength)
  }

  get size(): number {
    return this.all.length
  }
  byte(at: number): number {
    return this.#view.getUint8(at)
  }
  short(at: number): number {
    return this.#view.getUint16(at, true)
  }
  signedShort(at: number): number {
    return this.#view.getInt16(at, true)
  }
  long(at: number): number {
    return this.#view.getUint32(at, true)
  }
  /** Letters of two bytes each. */
  letters(at: number, count: number): string {
    let text = ''
    for (let nth = 0; nth < count; nth++) text += String.fromCharCode(this.short(at + 2 * nth))
    return text
  }
}

/** The streams that a document of the binary form is read from. */
export interface BinaryParts {
  /** The stream `WordDocument`: the table of contents of all the rest, then texts and how they look. */
  readonly main: Bytes
  readonly table: Bytes
  /** Pictures in the text; empty where it has none. */
  readonly data: Bytes
}

/** What the main stream begins with ([MS-DOC] §2.5.2), and the oldest form that is read: of 1997. */
const mark = 0xa5ec
const oldest = 0xc1
const [isLocked, isSecondTable] = [0x0100, 0x0200]

/**
 * The streams of a document of a word processor's binary form ([MS-CFB], [MS-DOC] §2.1).
 * @throws Problem `document-locked` for one that has a password, is of an older form or none of a word processor
 */
export function binaryParts(bytes: Uint8Array): BinaryParts {
  const found = CFB.read(bytes, { type: 'array' })
  const stream = (name: string): Bytes | null => {
    const content = CFB.find(found, `/${name}`)?.content
    return content ? new Bytes(Uint8Array.from(content)) : null
  }
  const main = stream('WordDocument')
  if (!main || main.size < 0x400 || main.short(0) !== mark || main.short(2) < oldest)
    throw new Problem('document-locked')
  const flags = main.short(0x0a)
  const table = stream(flags & isSecondTable ? '1Table' : '0Table')
  if (flags & isLocked || !table) throw new Problem('document-locked')
  return { main, table, data: stream('Data') ?? new Bytes(new Uint8Array()) }
}

/** A part of the table stream by its number in the table of contents ([MS-DOC] §2.5.6): where it is, and its length in bytes. */
export function partAt(
  { main }: BinaryParts,
  number: number,
): { readonly at: number; readonly length: number } {
  const at = 0x9a + 8 * number
  return { at: main.long(at), length: main.long(at + 4) }
}

/** Places of a PLC, one more than it has data, and where its data begin ([MS-DOC] §2.2.2). */
export function placesIn(
  { table }: BinaryParts,
  { at, length }: { readonly at: number; readonly length: number },
  dataBytes: number,
): { readonly places: readonly number[]; readonly dataAt: number } {
  const count = length < 4 ? -1 : Math.floor((length - 4) / (4 + dataBytes))
  const places = Array.from({ length: count + 1 }, (_, nth) => table.long(at + 4 * nth))
  return { places, dataAt: at + 4 * (count + 1) }
}

/** The last of ascending places that is not after one; -1 before the first. */
export function lastUpTo(places: readonly number[], place: number): number {
  let [low, high] = [0, places.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (places[middle]! <= place) low = middle + 1
    else high = middle
  }
  return low - 1
}
