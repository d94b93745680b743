import { formOf, type Found, type FoundPicture, numberOf } from './found'
import { made, type Node, tidied, written } from './nodes'
import { OpenStyles } from './open-styles'
import { type Parts, partsOf, textOf } from './packed'
import { type Attributes, readXml } from './xml'

/** What is read of OpenDocument (ISO/IEC 26300, part 2 §3). */
const wanted = /^(content|styles)\.xml$|^Pictures\/|^ObjectReplacements\//

/** Columns and rows that one cell may cover. */
const mostCovered = 100
/** Spaces in a row. */
const mostSpaces = 200

/** What is no text of the document: remarks beside it, what was crossed out, what only counts. */
const silent = new Set([
  'office:annotation',
  'office:forms',
  'text:tracked-changes',
  'text:sequence-decls',
  'text:variable-decls',
  'text:user-field-decls',
  'text:note-citation',
  'text:table-of-content-source',
  'text:index-title',
  'text:ruby-text',
])

/** Elements that become one of HTML as they are. */
const plain: Readonly<Record<string, string>> = {
  'table:table': 'table',
  'table:table-header-rows': 'thead',
  'table:table-row': 'tr',
  'text:list-item': 'li',
  'text:list-header': 'li',
}

/** The frame around a picture: what its author says of it, and the picture, once it is there. */
interface Frame {
  title: string
  description: string
  picture: { readonly node: Node; bytes: Uint8Array } | null
}

/** Makes HTML of what a document says, element by element (part 3 §5 to §9). */
class Reader {
  readonly root = made('body')
  readonly pictures: FoundPicture[] = []
  readonly #notes: Node[] = []
  readonly #lists: (string | undefined)[] = []
  readonly #frames: Frame[] = []
  /** Where text goes, outermost first, and the element that each place ends with. */
  readonly #path: { readonly name: string; readonly node: Node }[] = [{ name: '', node: this.root }]
  /** Elements that say nothing, around what is read. */
  #silent = 0
  /** Paragraphs around what is read: white space elsewhere is how a program wrote its file (§6.1.2). */
  #paragraphs = 0
  #isContents = false
  #says: 'title' | 'description' | null = null

  constructor(
    private readonly parts: Parts,
    private readonly styles: OpenStyles,
  ) {}

  get #here(): Node {
    return this.#path[this.#path.length - 1]!.node
  }

  #add(...nodes: (Node | string)[]): void {
    this.#here.children.push(...nodes)
  }

  /** Begins a place for text that ends with an element of that name; `around` are marks of it, outermost first. */
  #begin(name: string, around: readonly Node[]): void {
    for (const node of around) {
      this.#add(node)
      this.#path.push({ name: '', node })
    }
    const inner = this.#here
    this.#path.length -= around.length
    this.#path.push({ name, node: inner })
  }

  open(name: string, attributes: Attributes): void {
    if (name === 'svg:title') this.#says = 'title'
    else if (name === 'svg:desc') this.#says = 'description'
    if (silent.has(name)) this.#silent += 1
    if (this.#silent > 0) return
    if (name in plain) return this.#begin(name, [made(plain[name]!)])
    switch (name) {
      case 'text:p':
      case 'text:h':
        this.#paragraphs += 1
        return this.#begin(name, this.#paragraph(name, attributes))
      case 'text:span':
        return this.#begin(name, this.#marks(attributes['text:style-name']))
      case 'text:a':
        return this.#begin(name, [
          made('a', { href: (attributes['xlink:href'] ?? '').replace(/\|outline$/, '') }),
        ])
      case 'text:list':
        return this.#list(attributes)
      case 'table:table-cell':
        return this.#cell(attributes)
      case 'text:note':
        return this.#note()
      case 'text:table-of-content':
        this.#isContents = true
        return
      case 'text:bookmark':
      case 'text:bookmark-start':
        return this.#add(made('a', { id: (attributes['text:name'] ?? '').replace(/\s+/g, '_') }))
      case 'text:line-break':
        return this.#add(made('br'))
      case 'text:tab':
        return this.#add('\t')
      case 'text:s':
        return this.#add(' '.repeat(Math.min(Number(attributes['text:c'] ?? 1) || 1, mostSpaces)))
      case 'draw:frame':
        this.#frames.push({ title: '', description: '', picture: null })
        return
      case 'draw:image':
        return this.#picture(attributes)
    }
  }

  close(name: string): void {
    if (name === 'svg:title' || name === 'svg:desc') this.#says = null
    if (silent.has(name)) this.#silent -= 1
    else if (this.#silent === 0) this.#end(name)
  }

  text(words: string): void {
    const frame = this.#frames[this.#frames.length - 1]
    if (this.#says !== null) {
      if (frame) frame[this.#says] += words
    } else if (this.#silent === 0 && this.#paragraphs > 0) this.#add(words)
  }

  #end(name: string): void {
    if (name === 'text:table-of-content') this.#isContents = false
    else if (name === 'draw:frame') this.#named(this.#frames.pop())
    if (this.#path[this.#path.length - 1]!.name !== name) return
    this.#path.pop()
    if (name === 'text:list') this.#lists.pop()
    if (name !== 'text:p' && name !== 'text:h') return
    this.#paragraphs -= 1
    if (this.#isContents) withoutPageNumber(this.#here)
  }

  /** A paragraph or a heading, with the marks of its own style. */
  #paragraph(name: string, attributes: Attributes): Node[] {
    const style = attributes['text:style-name']
    const { names, level: styleLevel } = this.styles.lookOf(style)
    const is = (...these: string[]) => these.some((one) => names.includes(one))
    if (is('title')) return [made('h1', { class: 'title' })]
    const level = Number(attributes['text:outline-level'] ?? styleLevel)
    if (name === 'text:h' || level >= 1) return [made(`h${Math.min(6, Math.max(1, level || 1))}`)]
    if (is('preformatted text')) return [made('pre')]
    if (is('quotations', 'quote')) return [made('blockquote'), made('p')]
    if (is('caption')) return [made('figcaption')]
    // What a table's head looks like is said by its cells.
    return [made('p'), ...(is('table heading') ? [] : this.#marks(style))]
  }

  #marks(style: string | undefined): Node[] {
    const { bold, italic, struck, raised } = this.styles.lookOf(style)
    const tags = [bold && 'strong', italic && 'em', struck && 's', raised]
    return tags.flatMap((tag) => (tag ? [made(tag)] : []))
  }

  #list(attributes: Attributes): void {
    // A list in a list has the style of that, unless it has one of its own.
    const style = attributes['text:style-name'] ?? this.#lists[this.#lists.length - 1]
    this.#lists.push(style)
    this.#begin('text:list', [made(this.styles.isNumbered(style, this.#lists.length) ? 'ol' : 'ul')])
  }

  #cell(attributes: Attributes): void {
    const spans: Record<string, string> = {}
    for (const [what, attribute] of [['columns', 'colspan'], ['rows', 'rowspan']] as const) {
      const covered = Number(attributes[`table:number-${what}-spanned`] ?? 1)
      if (covered > 1) spans[attribute] = String(Math.min(covered, mostCovered))
    }
    const isHead = this.#path.some(({ name }) => name === 'table:table-header-rows')
    this.#begin('table:table-cell', [made(isHead ? 'th' : 'td', spans)])
  } // prettier-ignore

  /** A note stands at the end, and its sign leads there and back. */
  #note(): void {
    const nth = this.#notes.length + 1
    const sign = made('a', { href: `#note-${nth}`, id: `note-ref-${nth}` }, [`[${nth}]`])
    this.#add(made('sup', {}, [sign]))
    const node = made('li', { id: `note-${nth}` })
    this.#notes.push(node)
    this.#path.push({ name: 'text:note', node })
  }

  #picture(attributes: Attributes): void {
    const bytes = this.parts.get((attributes['xlink:href'] ?? '').replace(/^\.\//, ''))
    if (!bytes) return
    const frame = this.#frames[this.#frames.length - 1]
    if (frame?.picture) {
      // The same thing in several forms stands in one frame, the best first; not every one can be shown.
      if (!formOf(frame.picture.bytes)) frame.picture.bytes = bytes
      return
    }
    const node = made('img')
    this.#add(node)
    if (frame) frame.picture = { node, bytes }
    else this.#named({ title: '', description: '', picture: { node, bytes } })
  }

  /** A picture is known once its frame ends: what it says stands behind it. */
  #named(frame: Frame | undefined): void {
    if (!frame?.picture) return
    const { node, bytes } = frame.picture
    const alt = (frame.description || frame.title).replace(/\s+/g, ' ').trim() || null
    node.attributes.src = String(numberOf(this.pictures, { bytes, alt }))
  }

  html(): string {
    for (const [index, note] of this.#notes.entries()) {
      const last = note.children[note.children.length - 1]
      const back = made('a', { href: `#note-ref-${index + 1}` }, ['↑'])
      if (typeof last === 'object' && last.tag === 'p') last.children.push(' ', back)
      else note.children.push(back)
    }
    if (this.#notes.length > 0) this.root.children.push(made('ol', {}, this.#notes))
    return written(tidied(this.root))
  }
}

/** What a document in OpenDocument says. @throws Problem as `partsOf` does, RangeError for one that is too deep */
export function readOpenDocument(bytes: Uint8Array): Found {
  const parts = partsOf(bytes, (path) => wanted.test(path))
  const content = textOf(parts, 'content.xml')
  const reader = new Reader(parts, new OpenStyles([textOf(parts, 'styles.xml'), content]))
  readXml(content, {
    open: (name, attributes) => reader.open(name, attributes),
    close: (name) => reader.close(name),
    text: (words) => reader.text(words),
  })
  return { html: reader.html(), pictures: reader.pictures }
}

/** The last line of a list of contents leads to its heading, and does without the number of a page; one that leads nowhere goes. */
function withoutPageNumber(contents: Node): void {
  const line = contents.children[contents.children.length - 1]
  if (typeof line !== 'object') return
  const link = line.children.find((one): one is Node => typeof one === 'object' && one.tag === 'a')
  if (!link) {
    contents.children.pop()
    return
  }
  const tab = link.children.lastIndexOf('\t')
  if (tab >= 0) link.children = link.children.slice(0, tab)
  line.children = [link]
}
