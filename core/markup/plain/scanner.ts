import type { AttributePlace, HtmlAttribute, Span } from '../tree'
import { resolved } from './character-references'
import { leave } from './not-plain'

export const isSpace = (code: number): boolean =>
  code === 0x20 || code === 0x0a || code === 0x09 || code === 0x0c

const isLetter = (code: number): boolean => (code | 0x20) >= 0x61 && (code | 0x20) <= 0x7a

/** Where something stands, of one shape for all. */
export class At implements Span {
  constructor(
    readonly startOffset: number,
    readonly endOffset: number,
  ) {}
}

class AttributeAt implements AttributePlace {
  constructor(
    readonly startOffset: number,
    readonly endOffset: number,
    readonly valueStart: number,
  ) {}
}

export class Attribute implements HtmlAttribute {
  constructor(
    readonly name: string,
    public value: string,
    public at: AttributePlace | undefined,
  ) {}
}

/** Characters that are errors in any text (HTML §13.2.3.5), but for the rarest. */

const stray = /[\0-\x08\x0b\x0d-\x1f\x7f-\x9f\ufdd0-\ufdef\ufffe\uffff]/
/** Half of a character of more than one unit, and the last two of each plane. */
const strayPair = /\p{Surrogate}|\p{Noncharacter_Code_Point}/u

/** Reads the tags and comments of a text, one after the other (HTML §13.2.5); leaves it at the first error. */
export class Scanner {
  /** Where it goes on. */
  at = 0
  /** Of the tag that was read last. */
  isSelfClosing = false

  constructor(readonly text: string) {
    if (stray.test(text) || (/[\ud800-\udfff]/.test(text) && strayPair.test(text))) leave()
  }

  skipSpaces(): void {
    while (isSpace(this.text.charCodeAt(this.at))) this.at++
  }

  /** The name of a tag, in lower case. Names of one element each are all that is plain. */
  tagName(): string {
    const { text } = this
    const start = this.at
    let hasUpper = false
    let code = text.charCodeAt(this.at)
    if (!isLetter(code)) leave()
    for (; ; code = text.charCodeAt(++this.at)) {
      if (code >= 0x61 && code <= 0x7a) continue
      if (code >= 0x41 && code <= 0x5a) hasUpper = true
      else if (!((code >= 0x30 && code <= 0x39) || code === 0x2d)) break
    }
    if (!isSpace(code) && code !== 0x3e && code !== 0x2f) leave()
    const name = text.slice(start, this.at)
    return hasUpper ? name.toLowerCase() : name
  }

  /** Goes over what ends an end tag: nothing but white space. */
  endOfEndTag(): void {
    this.skipSpaces()
    if (this.text.charCodeAt(this.at++) !== 0x3e) leave()
  }

  /** The attributes of a start tag, up to its end. */
  attributes(): Attribute[] {
    const { text } = this
    const found: Attribute[] = []
    this.isSelfClosing = false
    for (;;) {
      this.skipSpaces()
      const code = text.charCodeAt(this.at)
      if (code === 0x3e) {
        this.at++
        return found
      }
      if (code === 0x2f) {
        if (text.charCodeAt(this.at + 1) !== 0x3e) leave()
        this.isSelfClosing = true
        this.at += 2
        return found
      }
      const attribute = this.#attribute()
      // One that is there already is an error.
      for (const { name } of found) if (name === attribute.name) leave()
      found.push(attribute)
      // More of them would take time with each.
      if (found.length > 60) leave()
    }
  }

  #attribute(): Attribute {
    const { text } = this
    const start = this.at
    let hasUpper = false
    for (; ; this.at++) {
      const code = text.charCodeAt(this.at)
      if (code >= 0x61 && code <= 0x7a) continue
      if (code >= 0x41 && code <= 0x5a) hasUpper = true
      else if (code === 0x3d || code === 0x3e || code === 0x2f || isSpace(code)) break
      // Quotes and `<` are errors here; of the end of a text there is no code.
      else if (code === 0x22 || code === 0x27 || code === 0x3c || code !== code) leave()
    }
    if (this.at === start) leave()
    const written = text.slice(start, this.at)
    const name = hasUpper ? written.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : written
    const end = this.at
    this.skipSpaces()
    if (text.charCodeAt(this.at) !== 0x3d) {
      this.at = end
      return new Attribute(name, '', new AttributeAt(start, end, -1))
    }
    this.at++
    this.skipSpaces()
    const valueAt = this.at
    const value = this.#value()
    const sign = text.charCodeAt(valueAt)
    const valueStart = sign === 0x22 || sign === 0x27 ? valueAt + 1 : valueAt
    return new Attribute(name, value, new AttributeAt(start, this.at, valueStart))
  }

  #value(): string {
    const { text } = this
    const quote = text.charCodeAt(this.at)
    if (quote === 0x22 || quote === 0x27) {
      const start = this.at + 1
      const end = text.indexOf(quote === 0x22 ? '"' : "'", start)
      if (end < 0) leave()
      this.at = end + 1
      const next = text.charCodeAt(this.at)
      if (next !== 0x3e && next !== 0x2f && !isSpace(next)) leave()
      return resolved(text.slice(start, end))
    }
    const start = this.at
    for (; ; this.at++) {
      const code = text.charCodeAt(this.at)
      if (code === 0x3e || isSpace(code)) break
      // Quotes, `<`, `=` and a backtick are errors in a value without quotes.
      if (code === 0x22 || code === 0x27 || code === 0x3c || code === 0x3d || code === 0x60 || code !== code)
        leave()
    }
    if (this.at === start) leave()
    return resolved(text.slice(start, this.at))
  }

  /** What a comment holds, `<!--` being read already (HTML §13.1.6). */
  comment(): string {
    const start = this.at
    const end = this.text.indexOf('-->', start)
    if (end < 0) leave()
    const data = this.text.slice(start, end)
    if (/^-?>|^->|<!-|--!|-$/.test(data)) leave()
    this.at = end + 3
    return data
  }

  /** Goes to the end tag of an element whose text holds no tags. */
  toEndTagOf(name: string): void {
    const { text } = this
    for (let at = this.at; ; at += 2) {
      at = text.indexOf('</', at)
      if (at < 0) leave()
      const end = at + 2 + name.length
      const next = text.charCodeAt(end)
      if (next !== 0x3e && next !== 0x2f && !isSpace(next)) continue
      if (text.slice(at + 2, end).toLowerCase() !== name) continue
      this.at = at
      return
    }
  }
}
