import { formOf } from '../found'
import { type BinaryParts, type Bytes, partAt, placesIn } from './parts'

/** A picture with what it says to somebody who cannot see it. */
export interface BinaryPicture {
  readonly bytes: Uint8Array
  readonly alt: string | null
}

/** Kinds of records ([MS-ODRAW] §2.2): what holds pictures, shapes, what is said of a shape, and pictures themselves. */
const [entryOfStore, shape, shapeHead, shapeProperties, firstBlip, lastBlip] = [0xf007, 0xf004, 0xf00a, 0xf00b, 0xf01a, 0xf02a] // prettier-ignore
/** Properties of a shape ([MS-ODRAW] §2.3.7.1, §2.3.4.28): the number of its picture, and what it says. */
const [pictureNumber, description] = [0x0104, 0x0381]
/** Fields of an entry of the store before what it holds, and where its picture is if that is elsewhere ([MS-ODRAW] §2.2.32). */
const [entryBytes, elsewhereAt] = [36, 28]
/** Bytes before a picture in its record, at most: two digests and a tag, or the head of its form. */
const mostBefore = 80
/** Records in one another, at most. */
const deepest = 12

interface ArtRecord {
  readonly kind: number
  readonly instance: number
  readonly from: number
  readonly to: number
}

/** Records one after the other, each with those in it after it ([MS-ODRAW] §2.2.1). */
function* recordsIn(bytes: Bytes, from: number, to: number, depth = 0): Generator<ArtRecord> {
  for (let at = from; at + 8 <= to && at + 8 <= bytes.size;) {
    const head = bytes.short(at)
    const record = {
      kind: bytes.short(at + 2),
      instance: head >> 4,
      from: at + 8,
      to: at + 8 + bytes.long(at + 4),
    }
    if (record.to > to) return
    yield record
    if ((head & 0xf) === 0xf && depth < deepest) yield* recordsIn(bytes, record.from, record.to, depth + 1)
    at = record.to
  }
}

/** What pictures that browsers show begin with. */
const firstBytes = new Set([0x89, 0xff, 0x47, 0x52])

/** The picture in a record; as it is where no browser shows its form, so that it is told as left out. */
function blip(bytes: Bytes, from: number, to: number): Uint8Array {
  const all = bytes.all.subarray(from, to)
  for (let before = 0; before < mostBefore; before++)
    if (firstBytes.has(all[before]!) && formOf(all.subarray(before))) return all.subarray(before)
  return all
}

/** What is said of a shape: its picture's number from 1, and its words. */
function propertiesOf(bytes: Bytes, { instance, from, to }: ArtRecord) {
  let [picture, alt] = [0, null as string | null]
  // What is long stands behind all of them, in their order.
  let behind = from + 6 * instance
  for (let nth = 0; nth < instance && from + 6 * nth + 6 <= to; nth++) {
    const [name, value] = [bytes.short(from + 6 * nth), bytes.long(from + 6 * nth + 2)]
    if ((name & 0x3fff) === pictureNumber) picture = value
    if ((name & 0x8000) === 0) continue
    if ((name & 0x3fff) === description && behind + value <= to)
      alt = bytes
        .letters(behind, value >> 1)
        .replace(/\0+$/, '')
        .trim()
    behind += value
  }
  return { picture, alt: alt === '' ? null : alt }
}

/** Forms of a picture in the text that hold it ([MS-DOC] §2.9.157). */
const [asShape, asLinkedShape] = [0x64, 0x66]

/** A picture in the text ([MS-DOC] §2.9.190); null where there is none. */
export function pictureAt(data: Bytes, at: number): BinaryPicture | null {
  if (at + 8 > data.size) return null
  const end = Math.min(data.size, at + data.long(at))
  const form = data.short(at + 6)
  if (form !== asShape && form !== asLinkedShape) return null
  let place = at + data.short(at + 4)
  if (form === asLinkedShape) place += 1 + data.byte(place)
  let alt: string | null = null
  for (const record of recordsIn(data, place, end)) {
    const { kind, from, to } = record
    if (kind === shapeProperties) alt ??= propertiesOf(data, record).alt
    if (kind === entryOfStore && to > from + entryBytes)
      return { bytes: blip(data, from + entryBytes + 8, to), alt }
    if (kind >= firstBlip && kind <= lastBlip) return { bytes: blip(data, from, to), alt }
  }
  return null
}

/** Pictures that stand beside the text, by the letter that they belong to ([MS-DOC] §2.8.37, §2.9.172). */
export function picturesBeside(parts: BinaryParts): ReadonlyMap<number, BinaryPicture> {
  const { table, main } = parts
  const art = partAt(parts, 50)
  const found = new Map<number, BinaryPicture>()
  if (art.length === 0) return found
  const store: (Uint8Array | null)[] = []
  const shapes = new Map<number, ReturnType<typeof propertiesOf>>()
  let number = 0
  const read = (from: number): number => {
    let last = from
    for (const record of recordsIn(table, from, art.at + art.length)) {
      const { kind, from: inside, to } = record
      last = Math.max(last, to)
      if (kind === entryOfStore) {
        const elsewhere = table.long(inside + elsewhereAt)
        const isHere = to > inside + entryBytes
        const [record] = isHere ? [] : recordsIn(main, elsewhere, main.size)
        store.push(
          isHere
            ? blip(table, inside + entryBytes + 8, to)
            : record
              ? blip(main, record.from, record.to)
              : null,
        )
      } else if (kind === shape) number = 0
      else if (kind === shapeHead) number = table.long(inside)
      else if (kind === shapeProperties && number > 0) shapes.set(number, propertiesOf(table, record))
    }
    return last
  }
  // First what is common to all drawings, then each of them, after a byte that tells which text it belongs to.
  for (let at = read(art.at); at + 1 < art.at + art.length;) {
    const next = read(at + 1)
    if (next <= at + 1) break
    at = next
  }
  const { places, dataAt } = placesIn(parts, partAt(parts, 40), 26)
  for (const [nth, place] of places.slice(0, -1).entries()) {
    const shape = shapes.get(table.long(dataAt + 26 * nth))
    const bytes = shape && store[shape.picture - 1]
    if (bytes) found.set(place, { bytes, alt: shape.alt })
  }
  return found
}
