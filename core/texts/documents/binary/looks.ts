import { type BinaryParts, type Bytes, lastUpTo, partAt, placesIn } from './parts'

/** A property with where its operand is ([MS-DOC] §2.2.5.1). */
export interface Property {
  readonly code: number
  readonly at: number
}

/** Bytes of operands by the kind that a property's number says; 0 for those that say their length themselves. */
const operandBytes = [1, 1, 2, 4, 2, 2, 0, 3]
/** Its length is told in two bytes, one too many ([MS-DOC] §2.9.323). */
const tableDefinition = 0xd608

/** Properties from one place to another; what is cut off ends them. */
export function* propertiesIn(bytes: Bytes, from: number, to: number): Generator<Property> {
  for (let at = from; at + 3 <= to;) {
    const code = bytes.short(at)
    const fixed = operandBytes[code >> 13]!
    const own = code === tableDefinition ? bytes.short(at + 2) + 1 : bytes.byte(at + 2) + 1
    yield { code, at: at + 2 + (fixed > 0 || code === tableDefinition ? 0 : 1) }
    at += 2 + (fixed || own)
  }
}

/** Where the properties of a stretch of text are; null where it has none of its own. */
interface Stretch {
  /** Place in the main stream up to which it goes. */
  readonly end: number
  readonly from: number
  readonly to: number
}

/** How stretches of text look, by their place in the main stream ([MS-DOC] §2.9.33, §2.9.174). */
export class Looks {
  readonly #pages: readonly number[]
  readonly #places: readonly number[]
  readonly #read = new Map<number, { readonly places: number[]; readonly at: number }>()

  /** @param number of the part that lists pages of 512 bytes; of letters that is 12, of paragraphs 13 */
  constructor(
    private readonly parts: BinaryParts,
    private readonly number: 12 | 13,
  ) {
    const { places, dataAt } = placesIn(parts, partAt(parts, number), 4)
    this.#places = places
    this.#pages = places.slice(1).map((_, nth) => parts.table.long(dataAt + 4 * nth) & 0x3fffff)
  }

  /** The stretch that a place is in. */
  at(place: number): Stretch {
    const { main } = this.parts
    const nth = lastUpTo(this.#places, place)
    const page = this.#pages[nth]
    if (page === undefined) return { end: this.#places[nth + 1] ?? Infinity, from: 0, to: 0 }
    const { places, at } = this.#page(page)
    const run = lastUpTo(places, place)
    const end = places[run + 1]
    if (end === undefined || run < 0) return { end: this.#places[nth + 1] ?? Infinity, from: 0, to: 0 }
    const entry = at + 4 * places.length + run * (this.number === 12 ? 1 : 13)
    const from = at + 2 * main.byte(entry)
    if (from === at) return { end, from: 0, to: 0 }
    if (this.number === 12) return { end, from: from + 1, to: from + 1 + main.byte(from) }
    const half = main.byte(from)
    // An odd number of bytes has its length once, an even one after a nothing ([MS-DOC] §2.9.175).
    return half > 0
      ? { end, from: from + 1, to: from + 2 * half }
      : { end, from: from + 2, to: from + 2 + 2 * main.byte(from + 1) }
  }

  #page(number: number) {
    const known = this.#read.get(number)
    if (known) return known
    const at = 512 * number
    const count = this.parts.main.byte(at + 511)
    const places = Array.from({ length: count + 1 }, (_, nth) => this.parts.main.long(at + 4 * nth))
    const page = { places, at }
    this.#read.set(number, page)
    return page
  }
}

/** How letters look; undefined where their style says. */
export interface LetterLook {
  bold?: boolean
  italic?: boolean
  strike?: boolean
  hidden?: boolean
  raised?: 'super' | 'sub'
  /** In half points. */
  size?: number
  /** Where a picture is in the stream `Data`. */
  picture?: number
  /** Whether it is a sign with a meaning of its own. */
  special?: boolean
}

/** What letters say of their look ([MS-DOC] §2.6.1). */
export function letterLook(bytes: Bytes, from: number, to: number): LetterLook {
  const look: LetterLook = {}
  for (const { code, at } of propertiesIn(bytes, from, to)) {
    const value = bytes.byte(at)
    const isOn = (value & 1) === 1
    if (code === 0x0835) look.bold = isOn
    else if (code === 0x0836) look.italic = isOn
    else if (code === 0x0837) look.strike = isOn
    else if (code === 0x083c || code === 0x0800) look.hidden = isOn || look.hidden
    else if (code === 0x0855) look.special = isOn
    else if (code === 0x2a48) look.raised = value === 1 ? 'super' : value === 2 ? 'sub' : undefined
    // Raised by so many half points, without being said to be.
    else if (code === 0x4845)
      look.raised ??= bytes.signedShort(at) > 0 ? 'super' : bytes.signedShort(at) < 0 ? 'sub' : undefined
    else if (code === 0x4a43) look.size = bytes.short(at)
    else if (code === 0x6a03) look.picture = bytes.long(at)
  }
  return look
}

/** What is said of a paragraph; undefined where its style says. */
export interface ParagraphLook {
  outline?: number
  list?: number
  level?: number
  inTable?: boolean
  endsRow?: boolean
}

/** What paragraphs say of themselves ([MS-DOC] §2.6.2). */
export function paragraphLook(bytes: Bytes, from: number, to: number): ParagraphLook {
  const look: ParagraphLook = {}
  for (const { code, at } of propertiesIn(bytes, from, to)) {
    if (code === 0x2640) look.outline = bytes.byte(at)
    else if (code === 0x460b) look.list = bytes.signedShort(at)
    else if (code === 0x260a) look.level = bytes.byte(at)
    else if (code === 0x2416) look.inTable = bytes.byte(at) !== 0
    else if (code === 0x2417) look.endsRow = bytes.byte(at) !== 0
  }
  return look
}

/** Letters of a style's name, at most ([MS-DOC] §2.9.258). */
const longestName = 253

/** A style as far as it tells what a text is. */
export interface BinaryStyle {
  /** Number of what every such document has: 1 to 9 are headings, 62 is the title ([MS-DOC] §2.9.260). */
  readonly builtIn: number
  readonly name: string
  readonly basedOn: number
  readonly paragraph: ParagraphLook
  readonly letters: LetterLook
}

/** The styles of a document by their number ([MS-DOC] §2.9.271). */
export function stylesIn(parts: BinaryParts): ReadonlyMap<number, BinaryStyle> {
  const { table } = parts
  const { at, length } = partAt(parts, 1)
  const styles = new Map<number, BinaryStyle>()
  if (length < 20) return styles
  const headBytes = table.short(at)
  const count = table.short(at + 2)
  const baseBytes = table.short(at + 4)
  let place = at + 2 + headBytes
  for (let number = 0; number < count && place + 2 <= at + length; number++) {
    const size = table.short(place)
    if (size > baseBytes) styles.set(number, styleAt(table, place + 2, size, baseBytes))
    // Each begins at an even place.
    place += 2 + size + (size & 1)
  }
  return styles
}

function styleAt(table: Bytes, at: number, size: number, baseBytes: number): BinaryStyle {
  const [first, second] = [table.short(at), table.short(at + 2)]
  const kind = second & 0xf
  const end = at + size
  let place = at + baseBytes
  const name = table.letters(place + 2, Math.min(longestName, table.short(place)))
  place += 2 + 2 * table.short(place) + 2
  const upx = () => {
    place += (place - at) & 1
    const length = place + 2 <= end ? table.short(place) : 0
    const from = place + 2
    place = from + length
    return { from, to: Math.min(end, from + length) }
  }
  const isParagraph = kind === 1
  const own = isParagraph ? upx() : null
  const letters = isParagraph || kind === 2 ? upx() : null
  return {
    builtIn: first & 0xfff,
    name,
    basedOn: second >> 4,
    // They begin with the style's own number.
    paragraph: own ? paragraphLook(table, own.from + 2, own.to) : {},
    letters: letters ? letterLook(table, letters.from, letters.to) : {},
  }
}
