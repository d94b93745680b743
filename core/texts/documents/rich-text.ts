import { type Found, type FoundPicture, numberOf } from './found'
import { made, type Node, tidied, written } from './nodes'
import { decoded, type RichToken, richTokens } from './rich-tokens'
import { guessedHeadings, type Paragraph } from './rich-headings'
import { type Held, type Into, passed, plain, plainParagraph, read, signs, type Style } from './rich-state'
import { RichTable } from './rich-table'

/** Groups in one another, at most: no document has so many. */
const deepest = 2_000

/** Styles of what somebody else said, as the programs call them in every language. */
const quotation = /^(quotations?|(intense )?quote|block text)$/i

/** Makes HTML of what a text in RTF says. */
class Reader {
  readonly paragraphs: Paragraph[] = []
  readonly pictures: FoundPicture[] = []
  readonly #notes: Node[] = []
  readonly #open: Held[] = []
  #held: Held = {
    into: 'text',
    mayPass: false,
    ...plain,
    ...plainParagraph,
    font: 0,
    skips: 1,
    told: null,
    ends: null,
  }
  /** The paragraph that is being written, and where its runs go: a link in it, perhaps. */
  #here: Node = made('p')
  #into: Node = this.#here
  #letters = 0
  #boldLetters = 0
  #largest = 0
  #run: { readonly key: string; readonly node: Node; readonly holder: Node } | null = null
  #mark: string | null = null
  /** The note that is being written. */
  #note: Node | null = null
  #bytes: number[] = []
  #skip = 0
  #codePage: number | null = null
  readonly #charsets = new Map<number, number>()
  readonly #styles = new Map<number, Style>()
  #said = ''
  #link: string | null = null
  #hex = ''
  /** The property of a picture that is told, and what the picture says. */
  #property = ''
  #alt: string | null = null
  #raw: Uint8Array | null = null
  readonly #table = new RichTable()

  text(words: string): void {
    const { into, hidden } = this.#held
    this.#flush()
    if (this.#skip > 0) {
      const left = words.slice(this.#skip)
      this.#skip = Math.max(0, this.#skip - words.length)
      if (left === '') return
      words = left
    }
    if (into === 'picture') this.#hex += words.replace(/\s+/g, '')
    else if (into === 'instruction' || into === 'place') this.#said += words
    else if (into === 'mark') this.#mark = (this.#mark ?? '') + words
    else if (into === 'styles') this.#styleName(words)
    else if (into === 'text' && !hidden) this.#add(words)
  }

  byte(byte: number): void {
    if (this.#skip > 0) this.#skip -= 1
    else this.#bytes.push(byte)
  }

  data(bytes: Uint8Array): void {
    if (this.#held.into === 'picture') this.#raw = bytes
  }

  open(): void {
    this.#flush()
    this.#skip = 0
    if (this.#open.length >= deepest) throw new RangeError('Groups too deep in one another')
    this.#open.push(this.#held)
    this.#held = { ...this.#held, mayPass: false, ends: null }
  }

  close(): void {
    this.#flush()
    this.#skip = 0
    this.#held.ends?.()
    this.#held = this.#open.pop() ?? this.#held
  }

  word(name: string, number: number | null): void {
    this.#flush()
    const held = this.#held
    if (name === '*') return void (held.mayPass = true)
    if (name === 'u') return this.#letter(number ?? 0)
    this.#skip = 0
    if (held.into === 'nowhere') return
    if (this.#begins(name)) return
    if (held.mayPass && held.into === 'text') return void (held.into = 'nowhere')
    const sign = signs[name]
    if (sign !== undefined) return this.text(sign)
    const isOn = number !== 0
    switch (name) {
      case 'ansicpg': return void (this.#codePage = number)
      case 'fcharset': return void (held.into === 'fonts' && this.#charsets.set(held.font, number ?? 0))
      case 'f': return void (held.font = number ?? 0)
      case 'uc': return void (held.skips = Math.max(0, number ?? 1))
      case 'plain': return void Object.assign(held, plain)
      case 'b': return void (held.bold = isOn)
      case 'i': return void (held.italic = isOn)
      case 'strike': case 'striked': return void (held.strike = isOn)
      case 'super': return void (held.raised = isOn ? 'sup' : null)
      case 'sub': return void (held.raised = isOn ? 'sub' : null)
      case 'nosupersub': return void (held.raised = null)
      case 'v': case 'deleted': return void (held.hidden = isOn)
      case 'fs': return void (held.size = number ?? 24)
      case 'pard': return void Object.assign(held, plainParagraph)
      case 's': return this.#styled(number ?? 0)
      case 'outlinelevel': return this.#outlined(number)
      case 'ls': return void (held.list = number ?? 0)
      case 'ilvl': return void (held.level = Math.max(0, Math.min(8, number ?? 0)))
      case 'intbl': return void (held.inTable = true)
      case 'trowd': return this.#table.define()
      case 'clmrg': return this.#table.merge()
      case 'clvmgf': return this.#table.mergeDown('begins')
      case 'clvmrg': return this.#table.mergeDown('goes on')
      case 'cellx': return this.#table.defined(number ?? 0)
      case 'trhdr': return this.#table.head()
      case 'line': case 'lbr': return this.#append(made('br'))
      // Before the first word it ends nothing: what is said of the paragraph is of what follows.
      case 'page': case 'column': return this.#here.children.length > 0 ? this.#paragraph() : undefined
      case 'par': case 'sect': return this.#paragraph()
      case 'cell': return this.#cellDone()
      case 'row': return this.#table.endRow()
    } // prettier-ignore
  }

  /** What is left to be written. */
  end(): void {
    this.#flush()
    this.#paragraph()
    this.#tableDone()
    if (this.#notes.length > 0) this.paragraphs.push(asItIs(made('ol', {}, this.#notes)))
  }

  /** Begins a destination; false where it is none. */
  #begins(name: string): boolean {
    const held = this.#held
    const goes = (into: Into, ends: (() => void) | null = null) => {
      held.into = into
      held.ends = ends
      this.#said = ''
      return true
    }
    if (passed.has(name)) return goes('nowhere')
    if (name === 'fonttbl') return goes('fonts')
    if (name === 'stylesheet') return goes('styles')
    if (name === 'pict') {
      ;[this.#hex, this.#raw, this.#alt] = ['', null, null]
      return goes('picture', () => this.#picture())
    }
    if (name === 'fldrslt') return goes('text', this.#linkBegins())
    if (!read.has(name)) return false
    held.mayPass = false
    if (name === 'fldinst') return goes('instruction', () => (this.#link = addressIn(this.#said)))
    if (name === 'bkmkstart') return goes('place', () => this.#append(made('a', { id: this.#said.trim().replace(/\s+/g, '_') }))) // prettier-ignore
    if (name === 'sn') return goes('instruction', () => (this.#property = this.#said.trim()))
    if (name === 'sv')
      return goes('instruction', () => {
        if (this.#property === 'wzDescription') this.#alt = this.#said.trim() || null
      })
    if (name === 'listtext' || name === 'pntext') {
      this.#mark = ''
      return goes('mark')
    }
    if (name === 'footnote') return goes('text', this.#noteBegins())
    return true
  }

  #flush(): void {
    if (this.#bytes.length === 0) return
    const bytes = Uint8Array.from(this.#bytes)
    this.#bytes = []
    this.text(decoded(bytes, this.#codePage, this.#charsets.get(this.#held.font) ?? null))
  }

  /** A sign by its number, a negative one for those above 32,767. */
  #letter(number: number): void {
    this.#skip = 0
    this.text(String.fromCharCode(number < 0 ? number + 65_536 : number))
    this.#skip = this.#held.skips
  }

  #add(words: string): void {
    const { bold, italic, strike, raised, size } = this.#held
    const key = [bold && 'strong', italic && 'em', strike && 's', raised].filter(Boolean).join(' ')
    if (this.#run?.key !== key || this.#run.holder !== this.#into) {
      let node = this.#into
      for (const tag of key.split(' ').filter(Boolean)) {
        const inner = made(tag)
        node.children.push(inner)
        node = inner
      }
      this.#run = { key, node, holder: this.#into }
    }
    this.#run.node.children.push(words)
    const letters = words.trim().length
    this.#letters += letters
    if (bold) this.#boldLetters += letters
    if (letters > 0) this.#largest = Math.max(this.#largest, size)
  }

  #append(node: Node): void {
    if (this.#held.into !== 'text' && this.#held.into !== 'place' && this.#held.into !== 'picture') return
    this.#into.children.push(node)
    this.#run = null
  }

  #styleName(words: string): void {
    const { told } = this.#held
    if (told) told.name += words.split(';', 1)[0]!
  }

  #styled(number: number): void {
    if (this.#held.into !== 'styles') return void (this.#held.style = number)
    this.#held.told = { name: '', outline: null }
    this.#styles.set(number, this.#held.told)
  }

  #outlined(level: number | null): void {
    const { told } = this.#held
    if (told) told.outline = level
    else this.#held.outline = level
  }

  /** What a paragraph is: a title, a heading, a caption, part of a quotation, an entry of a list, or text. */
  #kindOf(): Node {
    const { style: number, outline, list, level } = this.#held
    const style = number === null ? undefined : this.#styles.get(number)
    const name = style?.name.trim() ?? ''
    if (/^title$/i.test(name)) return made('h1', { class: 'title' })
    const told = Number(/^heading ([1-6])$/i.exec(name)?.[1] ?? (outline ?? style?.outline ?? 9) + 1)
    if (told <= 6) return made(`h${told}`)
    if (/^caption$/i.test(name)) return made('figcaption')
    if (quotation.test(name)) return made('blockquote')
    const mark = this.#mark?.trim() ?? ''
    if (list === 0 && mark === '') return made('p')
    const before = made('span', { style: 'mso-list:Ignore' }, [mark === '' ? '•' : mark])
    return made('p', { style: `mso-list:l${Math.abs(list)} level${level + 1}` }, [before])
  }

  #paragraph(): void {
    const { into, inTable } = this.#held
    // A whole paragraph where only its mark should stand is one all the same.
    if (into === 'mark') {
      const words = this.#mark ?? ''
      this.#mark = null
      this.#held.into = 'text'
      this.#add(words.trim())
    }
    if (this.#note) return this.#noteGoesOn(this.#note)
    const node = this.#kindOf()
    const says = this.#here.children.length > 0
    const words = this.#here.children
    node.children.push(...(node.tag === 'blockquote' ? [made('p', {}, words)] : words))
    const paragraph = { node, size: this.#largest, letters: this.#letters, isBold: this.#letters > 0 && this.#boldLetters === this.#letters, isText: node.tag === 'p' && !node.attributes.style } // prettier-ignore
    // A link goes on in the next paragraph, in its own.
    this.#here = made('p')
    this.#into = this.#here
    ;[this.#letters, this.#boldLetters, this.#largest, this.#run, this.#mark] = [0, 0, 0, null, null]
    if (inTable) {
      if (says) this.#table.add(node)
    } else {
      this.#tableDone()
      if (says) this.paragraphs.push(paragraph)
    }
  }

  #cellDone(): void {
    this.#held.inTable = true
    this.#paragraph()
    this.#table.endCell()
  }

  #tableDone(): void {
    const table = this.#table.take()
    if (table) this.paragraphs.push(asItIs(table))
  }

  #linkBegins(): (() => void) | null {
    const href = this.#link
    this.#link = null
    if (href === null) return null
    const link = made('a', { href })
    this.#append(link)
    const outer = this.#into
    this.#into = link
    return () => {
      if (this.#into === link) this.#into = outer
    }
  }

  #noteBegins(): () => void {
    const number = this.#notes.length + 1
    const to = made('a', { id: `note-from-${number}`, href: `#note-${number}` }, [String(number)])
    this.#append(made('sup', {}, [to]))
    const [here, into, letters, bold, largest] = [this.#here, this.#into, this.#letters, this.#boldLetters, this.#largest] // prettier-ignore
    const note = made('li', { id: `note-${number}` })
    this.#notes.push(note)
    this.#here = this.#into = made('p')
    this.#run = null
    const outer = this.#note
    this.#note = note
    return () => {
      this.#noteGoesOn(note)
      note.children.push(made('a', { href: `#note-from-${number}` }, ['↑']))
      this.#note = outer
      ;[this.#here, this.#into, this.#letters, this.#boldLetters, this.#largest] = [here, into, letters, bold, largest] // prettier-ignore
      this.#run = null
    }
  }

  /** Paragraphs of a note stand in one. */
  #noteGoesOn(note: Node): void {
    if (this.#here.children.length > 0) note.children.push(...this.#here.children, ' ')
    this.#here = this.#into = made('p')
    this.#run = null
  }

  #picture(): void {
    const bytes = this.#raw ?? bytesOf(this.#hex)
    ;[this.#hex, this.#raw] = ['', null]
    if (bytes.length === 0) return
    this.#append(made('img', { src: String(numberOf(this.pictures, { bytes, alt: this.#alt })) }))
  }
}

/** What is no text that could be a heading. */
const asItIs = (node: Node): Paragraph => ({ node, size: 0, letters: 0, isBold: false, isText: false })

/** The address of a field that is a link. */
const addressIn = (instruction: string): string | null => {
  const [, isPlace, address] = /HYPERLINK\s+(\\l\s+)?"([^"]*)"/i.exec(instruction) ?? []
  return address === undefined ? null : `${isPlace ? '#' : ''}${address.replace(/\s+/g, isPlace ? '_' : '')}`
}

function bytesOf(hex: string): Uint8Array {
  const bytes = new Uint8Array(hex.length >> 1)
  for (let at = 0; at < bytes.length; at++) bytes[at] = parseInt(hex.slice(2 * at, 2 * at + 2), 16)
  return bytes
}

/** Reads a text in RTF. @throws RangeError for groups too deep in one another */
export const readRichText = (bytes: Uint8Array): Found => readTokens(richTokens(bytes))

/** Reads what a text is made of, be it in RTF or told as if it were. @throws RangeError for groups too deep in one another */
export function readTokens(tokens: Iterable<RichToken>): Found {
  const reader = new Reader()
  for (const token of tokens)
    switch (token.kind) {
      case 'open':
      case 'close':
        reader[token.kind]()
        break
      case 'word':
        reader.word(token.name, token.number)
        break
      case 'byte':
        reader.byte(token.byte)
        break
      case 'text':
        reader.text(token.text)
        break
      case 'data':
        reader.data(token.bytes)
    }
  reader.end()
  const nodes = guessedHeadings(reader.paragraphs)
  return { html: written(tidied(made('body', {}, nodes))), pictures: reader.pictures }
}
