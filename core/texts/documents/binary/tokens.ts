import type { RichToken } from '../rich-tokens'
import { BinaryLists } from './lists'
import {
  type BinaryStyle,
  type LetterLook,
  letterLook,
  Looks,
  type ParagraphLook,
  paragraphLook,
  stylesIn,
} from './looks'
import type { BinaryParts } from './parts'
import { type BinaryPicture, pictureAt, picturesBeside } from './picture'
import { namedPlaces, notesIn } from './places'
import { type BinaryRow, rowIn } from './rows'
import { Text } from './text'

/** Signs that are no letters ([MS-DOC] §2.4.1, §2.8.25, §2.9.61). */
const [picture, cellEnd, beside, line, section, paragraphEnd, column, fieldBegin, fieldGoesOn, fieldEnd] = [1, 7, 8, 0x0b, 0x0c, 0x0d, 0x0e, 0x13, 0x14, 0x15] // prettier-ignore
const hardHyphen = 0x1e
/** What ends a column ends a paragraph: what stands below it there goes on at the top of the next. */
const ends = new Set([cellEnd, section, paragraphEnd, column])
/** What of those below a space is text. */
const tab = 9

/** Styles that every such document has, which programs call as their language does ([MS-DOC] §2.9.260). */
const calledAlike = new Map([[34, 'Caption'], [62, 'Title'], [180, 'Quote'], [181, 'Quote']]) // prettier-ignore
/** Styles that a style is based on in a row, at most. */
const mostBases = 12
/** In half points, where nothing says how large letters are. */
const usualSize = 20

const word = (name: string, number: number | null = null): RichToken => ({ kind: 'word', name, number })
const said = (text: string): RichToken => ({ kind: 'text', text })
const [open, close] = [{ kind: 'open' }, { kind: 'close' }] as const

/** Whether all that a field shows is made of other parts of the document: its contents, its index. */
const isGathered = (instruction: string) => /^\s*(TOC|INDEX)\b/i.test(instruction)

/** What ends with a sign: its style's number, what is said of it, and the row of a table that it ends. */
interface Paragraph {
  readonly number: number
  readonly look: ParagraphLook
  readonly row: BinaryRow | null
}

/** Goes through a document, and tells of it what the same would be in RTF, whose words are its properties. */
class Teller {
  readonly #text: Text
  readonly #letters: Looks
  readonly #paragraphs: Looks
  readonly #styles: ReadonlyMap<number, BinaryStyle>
  readonly #lists: BinaryLists
  readonly #pictures: ReadonlyMap<number, BinaryPicture>
  readonly #named: ReadonlyMap<number, readonly string[]>
  /** Fields that are open: their instruction so far, and whether what they show is passed over. */
  readonly #fields: { instruction: string; shows: boolean; silent: boolean }[] = []

  constructor(private readonly parts: BinaryParts) {
    this.#text = new Text(parts)
    this.#letters = new Looks(parts, 12)
    this.#paragraphs = new Looks(parts, 13)
    this.#styles = stylesIn(parts)
    this.#lists = new BinaryLists(parts)
    this.#pictures = picturesBeside(parts)
    this.#named = namedPlaces(parts)
  }

  *tell(): Generator<RichToken> {
    const { main } = this.parts
    const [text, feet, heads, remarks, atEnd, boxes] = [0x4c, 0x50, 0x54, 0x5c, 0x60, 0x64].map((at) => main.long(at)) as [number, number, number, number, number, number] // prettier-ignore
    yield* this.#tellStyles()
    const endnotes = text + feet + heads + remarks
    const notes = [...notesIn(this.parts, 2, text), ...notesIn(this.parts, 46, endnotes)]
    yield* this.#tellRange(0, text, new Map(notes.map((one) => [one.at, one])))
    // What stands in boxes beside the text is told below it.
    yield* this.#tellRange(endnotes + atEnd, endnotes + atEnd + boxes, new Map())
  }

  *#tellStyles(): Generator<RichToken> {
    yield* [open, word('stylesheet')]
    for (const [number, { name }] of this.#styles) {
      const { builtIn, outline } = this.#outlineOf(number)
      yield* [open, word('s', number)]
      if (outline !== undefined) yield word('outlinelevel', outline)
      yield* [said(`${calledAlike.get(builtIn) ?? name.replaceAll(';', ' ')};`), close]
    }
    yield close
  }

  /** What a style is by itself or by what it is based on. */
  #outlineOf(number: number): { builtIn: number; outline: number | undefined } {
    const own = this.#styles.get(number)
    let style = own
    for (let steps = 0; style && steps < mostBases; steps++) {
      const { builtIn, paragraph } = style
      if (builtIn >= 1 && builtIn <= 9) return { builtIn, outline: builtIn - 1 }
      if (paragraph.outline !== undefined || builtIn === 62) return { builtIn, outline: paragraph.outline }
      style = this.#styles.get(style.basedOn)
    }
    return { builtIn: own?.builtIn ?? 0, outline: undefined }
  }

  /** What a style says of letters or of paragraphs, by itself or by what it is based on. */
  #byStyle<T>(number: number, tell: (style: BinaryStyle) => T | undefined): T | undefined {
    let style = this.#styles.get(number)
    for (let steps = 0; style && steps < mostBases; steps++) {
      const found = tell(style)
      if (found !== undefined) return found
      style = this.#styles.get(style.basedOn)
    }
    return undefined
  }

  get #isSilent(): boolean {
    return this.#fields.some(({ shows, silent }) => shows && silent)
  }

  *#tellRange(
    from: number,
    to: number,
    notes: ReadonlyMap<number, { readonly start: number; readonly end: number }>,
    isNote = false,
  ): Generator<RichToken> {
    const text = this.#text.read(from, to)
    const fields = this.#fields.length
    for (let start = 0; start < text.length;) {
      let end = start
      while (end < text.length && !ends.has(text.charCodeAt(end))) end += 1
      const style = this.#paragraphAt(from + Math.min(end, text.length - 1))
      yield* this.#tellLetters(text, from, start, end, style.number, notes)
      const isLast = end >= text.length - 1
      const isNothing = end === start && text.charCodeAt(end) === column
      if (!this.#isSilent && !(isNote && isLast) && !isNothing)
        yield* this.#endOf(text.charCodeAt(end), style)
      start = end + 1
    }
    for (; this.#fields.length > fields; this.#fields.pop()) yield close
  }

  #paragraphAt(nth: number): Paragraph {
    const { main } = this.parts
    const stretch = this.#text.stretch(this.#paragraphs, nth)
    if (!stretch || stretch.to < stretch.from + 2) return { number: 0, look: {}, row: null }
    const look = paragraphLook(main, stretch.from + 2, stretch.to)
    const row = look.inTable && look.endsRow ? rowIn(this.parts, stretch.from + 2, stretch.to) : null
    return { number: main.short(stretch.from), look, row }
  }

  *#tellRow({ cells, isHead }: BinaryRow): Generator<RichToken> {
    yield word('trowd')
    if (isHead) yield word('trhdr')
    for (const { right, goesOn, vertical } of cells) {
      if (goesOn) yield word('clmrg')
      if (vertical) yield word(vertical === 'begins' ? 'clvmgf' : 'clvmrg')
      yield word('cellx', right)
    }
    yield word('row')
  }

  /** The end of a paragraph, with all that is said of it: a field that ends in it has taken back what was said before. */
  *#endOf(sign: number, { number, look, row }: Paragraph): Generator<RichToken> {
    const of = <K extends keyof ParagraphLook>(name: K) => look[name] ?? this.#byStyle(number, ({ paragraph }) => paragraph[name]) // prettier-ignore
    yield* [word('pard'), word('s', number)]
    if (look.outline !== undefined) yield word('outlinelevel', look.outline)
    if (look.inTable) {
      yield word('intbl')
      if (row) return yield* this.#tellRow(row)
    }
    const level = Math.min(8, of('level') ?? 0)
    const mark = this.#lists.next(of('list') ?? 0, level)
    if (mark !== null)
      yield* [open, word('listtext'), said(mark), close, word('ls', of('list') ?? 0), word('ilvl', level)]
    yield word(look.inTable && sign === cellEnd ? 'cell' : 'par')
  }

  *#tellLetters(
    text: string,
    from: number,
    start: number,
    end: number,
    style: number,
    notes: ReadonlyMap<number, { readonly start: number; readonly end: number }>,
  ): Generator<RichToken> {
    const { main } = this.parts
    for (let at = start; at < end;) {
      const stretch = this.#text.stretch(this.#letters, from + at)
      if (!stretch) return
      const stop = Math.min(end, stretch.end - from)
      const look = letterLook(main, stretch.from, stretch.to)
      if (!this.#isSilent) yield* this.#tellLook(look, style)
      let run = ''
      for (; at < stop; at++) {
        const code = text.charCodeAt(at)
        const field = this.#fields[this.#fields.length - 1]
        const names = this.#named.get(from + at)
        const isSign = code < 0x20 && code !== tab
        if (isSign || names) {
          if (run !== '' && !this.#isSilent) yield said(run)
          run = ''
        }
        for (const name of this.#isSilent ? [] : (names ?? []))
          yield* [open, word('*'), word('bkmkstart'), said(name), close]
        if (!isSign) {
          if (field && !field.shows) field.instruction += text[at]!
          run += text[at]!
        } else if (code === fieldBegin || code === fieldGoesOn || code === fieldEnd)
          yield* this.#tellField(code)
        else if (!this.#isSilent) yield* this.#tellSign(from + at, code, look, notes.get(from + at))
      }
      if (run !== '' && !this.#isSilent) yield said(run)
    }
  }

  *#tellLook(look: LetterLook, number: number): Generator<RichToken> {
    const { bold, italic, strike, hidden, raised, size } = look
    const styleSize = size ?? this.#byStyle(number, ({ letters }) => letters.size) ?? usualSize
    yield* [word('plain'), word('fs', styleSize)]
    if (bold) yield word('b')
    if (italic) yield word('i')
    if (strike) yield word('strike')
    if (hidden) yield word('v')
    if (raised) yield word(raised)
  }

  *#tellField(code: number): Generator<RichToken> {
    const field = this.#fields[this.#fields.length - 1]
    if (code === fieldBegin) {
      this.#fields.push({ instruction: '', shows: false, silent: false })
      yield* [open, word('*'), word('fldinst')]
    } else if (!field) return
    else if (code === fieldGoesOn && !field.shows) {
      field.shows = true
      field.silent = isGathered(field.instruction)
      yield* [close, open, word('fldrslt')]
    } else if (code === fieldEnd) {
      this.#fields.pop()
      yield close
    }
  }

  *#tellPicture(found: BinaryPicture | null): Generator<RichToken> {
    if (!found) return
    const { bytes, alt } = found
    yield* [open, word('pict')]
    if (alt !== null)
      yield* [open, word('sn'), said('wzDescription'), close, open, word('sv'), said(alt), close]
    yield* [{ kind: 'data', bytes }, close]
  }

  *#tellSign(
    at: number,
    code: number,
    look: LetterLook,
    noted: { readonly start: number; readonly end: number } | undefined,
  ): Generator<RichToken> {
    if (noted) {
      yield* [open, word('footnote')]
      yield* this.#tellRange(noted.start, noted.end, new Map(), true)
      yield close
    } else if (code === line) yield word('line')
    else if (code === hardHyphen) yield said('\u2011')
    else if (code === picture && look.special && look.picture !== undefined) {
      yield* this.#tellPicture(pictureAt(this.parts.data, look.picture))
    } else if (code === beside) yield* this.#tellPicture(this.#pictures.get(at) ?? null)
  }
}

/** Goes through a document of the binary form. @throws RangeError for one that is damaged */
export const tokensIn = (parts: BinaryParts): Generator<RichToken> => new Teller(parts).tell()
