import type { HtmlAttribute, Range } from '#core/markup'
import type { Strings } from './packed'
import type { WrittenTag } from './page-tree'

/** An entry of a list: the page it leads to and what it calls that, or what it says where it leads nowhere. */
export type ListEntry = { readonly id: string; readonly label: string } | { readonly says: string }

/** How links beside one another look: each as the attribute of a generated part says it; null where nothing tells. */
export interface LinkLook {
  /** What parts every two of a line: text, with `<br>` for the end of a line. Null of those of a list. */
  readonly between: string | null
  /** The element that marks the page's own. */
  readonly mark: string | null
  /** The `class` of what there is: '' without any, null where it is not the same on all of them. */
  readonly listClass: string | null
  readonly itemClass: string | null
  readonly ownItemClass: string | null
  readonly linkClass: string | null
  readonly ownClass: string | null
  /** Of entries that look otherwise than the others, and are not the page's own: those of the pages above it, perhaps. */
  readonly aboveClass: string | null
  readonly aboveItemClass: string | null
  /**
   * How an entry is written that is more than a link, with the values of a pattern: as most are, the page's own, and those that
   * are otherwise.
   */
  readonly pattern: string | null
  readonly ownPattern: string | null
  readonly abovePattern: string | null
  /** Which those are. */
  readonly others: readonly string[]
}

/** What nothing tells of links that stand in no list, and of those whose entries are links and nothing more. */
export const inNoList = {
  listClass: null,
  itemClass: null,
  ownItemClass: null,
  aboveItemClass: null,
} as const
export const notPatterned = { pattern: null, ownPattern: null, abovePattern: null } as const

/** What few nodes have. */
interface Seldom {
  /** Of an element that frames are made of, and that has attributes: its start tag. */
  readonly tag: WrittenTag | null
  /** Of a heading of the first level. */
  readonly says: string | null
  /** Of a list of nothing but pages. */
  readonly list: {
    readonly entries: readonly ListEntry[]
    readonly attributes: readonly HtmlAttribute[]
    readonly look: LinkLook
  } | null
}

/**
 * A node of what is kept of a page's tree: the elements a frame is made of, what they hold, and lists of links wherever
 * they stand. Anything else is one thing as a whole, whatever is in it: all pages of a site are held at once.
 */
export interface OutlineNode extends Seldom {
  /** Null for a text or a comment. */
  readonly tagName: string | null
  /** What tells it from others beside it; its references are written by what they lead to. */
  readonly key: string
  /** Equal digests, equal subtrees: white space aside, and references by what they lead to. */
  readonly digest: string
  /** Null for one that the parser added. */
  readonly range: Range | null
  /** Between its tags; null where they are not written. */
  readonly inside: Range | null
  /** Its `id`, else its classes. */
  readonly name: string | null
  /** Those that count, without white space; none of an element that is not looked into. */
  readonly children: readonly OutlineNode[]
}

/** A node as it is written down, after the one it stands in. */
export interface WrittenNode extends Omit<OutlineNode, 'children' | 'key'> {
  /** Null of what is no element. */
  readonly key: string | null
  /** Which of those before it stands around it; -1 at the top. */
  readonly parent: number
}

/** UTF-16 code units of a digest (`digestOf`). */
const digestLength = 7
const none = -1
const seldom: Seldom = { tag: null, says: null, list: null }

/** Where each number of a node stands among them, and how many they are. `size`: itself, and all within it. */
const at = { tagName: 0, key: 1, name: 2, start: 3, end: 4, insideStart: 5, insideEnd: 6, size: 7 }
const width = 8

/** What is kept of a page's nodes, in document order. */
interface Columns {
  readonly strings: Strings
  readonly numbers: Int32Array
  /** One after the other. */
  readonly digests: string
  readonly seldom: ReadonlyMap<number, Seldom>
}

/** A node for whoever looks at it: no two times the same object. */
class NodeInColumns implements OutlineNode {
  readonly #columns: Columns
  readonly #index: number

  constructor(columns: Columns, index: number) {
    this.#columns = columns
    this.#index = index
  }

  #number(place: number): number {
    return this.#columns.numbers[this.#index * width + place]!
  }
  #text(place: number): string | null {
    const number = this.#number(place)
    return number === none ? null : this.#columns.strings.textOf(number)
  }
  #range(start: number, end: number): Range | null {
    const from = this.#number(start)
    return from === none ? null : { start: from, end: this.#number(end) }
  }
  get #seldom(): Seldom {
    return this.#columns.seldom.get(this.#index) ?? seldom
  }

  get tagName() {
    return this.#text(at.tagName)
  }
  get digest() {
    const from = this.#index * digestLength
    return this.#columns.digests.slice(from, from + digestLength)
  }
  get key() {
    // What is no element is told from others by all that it says.
    return this.#text(at.key) ?? `= ${this.digest}`
  }
  get name() {
    return this.#text(at.name)
  }
  get range() {
    return this.#range(at.start, at.end)
  }
  get inside() {
    return this.#range(at.insideStart, at.insideEnd)
  }
  get tag() {
    return this.#seldom.tag
  }
  get says() {
    return this.#seldom.says
  }
  get list() {
    return this.#seldom.list
  }
  get children() {
    return nodesBetween(this.#columns, this.#index + 1, this.#index + this.#number(at.size))
  }
}

/** Those beside one another in a stretch of the nodes. */
function nodesBetween(columns: Columns, from: number, to: number): OutlineNode[] {
  const nodes: OutlineNode[] = []
  for (let index = from; index < to; index += columns.numbers[index * width + at.size]!)
    nodes.push(new NodeInColumns(columns, index))
  return nodes
}

/** What is kept of the tree of a page, in columns: some 50 bytes a node, of which all pages of a site have many. */
export class Outline {
  readonly #columns: Columns
  readonly #count: number

  /** @param nodes in document order */
  constructor(nodes: readonly WrittenNode[], strings: Strings) {
    const numbers = new Int32Array(nodes.length * width)
    const few = new Map<number, Seldom>()
    const number = (text: string | null) => (text === null ? none : strings.numberOf(text))
    for (const [index, { tagName, key, name, range, inside, tag, says, list }] of nodes.entries()) {
      const from = index * width
      numbers[from + at.tagName] = number(tagName)
      numbers[from + at.key] = number(key)
      numbers[from + at.name] = number(name)
      numbers[from + at.start] = range?.start ?? none
      numbers[from + at.end] = range?.end ?? none
      numbers[from + at.insideStart] = inside?.start ?? none
      numbers[from + at.insideEnd] = inside?.end ?? none
      if (tag || says !== null || list) few.set(index, { tag, says, list })
    }
    for (let index = nodes.length - 1; index >= 0; index--) {
      const { parent } = nodes[index]!
      const size = (numbers[index * width + at.size]! += 1)
      if (parent >= 0) numbers[parent * width + at.size]! += size
    }
    this.#count = nodes.length
    const digests = nodes.map(({ digest }) => digest).join('')
    this.#columns = { strings, numbers, digests, seldom: few }
  }

  get top(): readonly OutlineNode[] {
    return nodesBetween(this.#columns, 0, this.#count)
  }

  /**
   * Goes over the nodes in document order.
   * @param visit returns false where what is within is passed over
   */
  walk(visit: (node: OutlineNode) => boolean): void {
    for (let index = 0; index < this.#count;) {
      const isLookedInto = visit(new NodeInColumns(this.#columns, index))
      index += isLookedInto ? 1 : this.#columns.numbers[index * width + at.size]!
    }
  }
}
