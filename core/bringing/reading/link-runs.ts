import {
  applyEdits,
  attributeOf,
  attributeValueRange,
  digestOf,
  type HtmlAttribute,
  type HtmlElement,
  type HtmlNode,
  isElement,
  leadAt,
  type Range,
  type TextEdit,
} from '#core/markup'
import { ClassesOfEntries } from './entry-classes'
import type { LinkLine, ReadLinks } from './link-lines'
import { inNoList, type LinkLook, type ListEntry } from './outline'
import { type InOrder, rangeOf, shownText } from './page-tree'

/** What an entry around a link can be made of, in tables and out of them. */
const around =
  /^(td|th|tr|tbody|div|span|p|b|strong|i|em|u|font|small|big|center|nobr|a|br|wbr|dd|dt|li|img)$/
/** Letters of one entry in its source. */
const longestEntry = 2_000
/** Letters that are taken for what a page is called, where it is no link. */
const mostOwn = 120
const letter = /[\p{L}\p{N}]/u

/** None, one, or more than one, which of them is of no matter. */
type Few = 0 | 1 | 2

/** What is known of each node from those in it. Linear: each is asked once, after what it holds. */
export class EntryFacts {
  readonly #nodes: readonly HtmlNode[]
  readonly #again: ReadonlySet<HtmlNode>
  readonly #links: Uint8Array
  readonly #linkAt: Int32Array
  readonly #words: Uint8Array
  readonly #wordsAt: Int32Array
  readonly #isOdd: Uint8Array

  constructor({ nodes, again }: Pick<InOrder, 'nodes' | 'again'>) {
    this.#nodes = nodes
    this.#again = again
    this.#links = new Uint8Array(nodes.length)
    this.#linkAt = new Int32Array(nodes.length)
    this.#words = new Uint8Array(nodes.length)
    this.#wordsAt = new Int32Array(nodes.length)
    this.#isOdd = new Uint8Array(nodes.length)
  }

  /** @param holder the node it stands in; -1 for none */
  add(at: number, holder: number): void {
    const node = this.#nodes[at]!
    if (node.nodeName === '#text' && 'value' in node) {
      if (letter.test(node.value)) [this.#words[at], this.#wordsAt[at]] = [1, at]
    } else if (!isElement(node) || this.#again.has(node)) this.#isOdd[at] = 1
    else {
      const isLink = node.tagName === 'a' && attributeOf(node, 'href') !== undefined
      if (isLink && this.#links[at] === 0) [this.#links[at], this.#linkAt[at]] = [1, at]
      else if (isLink) this.#links[at] = 2
      if (!around.test(node.tagName) || node.attrs.some(isOdd)) this.#isOdd[at] = 1
    }
    if (holder < 0) return
    this.#isOdd[holder]! |= this.#isOdd[at]!
    if (this.#links[at]! > 0) {
      this.#links[holder] = few(this.#links[holder]! + this.#links[at]!)
      this.#linkAt[holder] = this.#linkAt[at]!
    }
    if (this.#words[at]! > 0) {
      this.#words[holder] = few(this.#words[holder]! + this.#words[at]!)
      this.#wordsAt[holder] = this.#wordsAt[at]!
    }
  }

  /** Whether a node is made of what entries are made of, and says nothing: what may stand between two. */
  isBlank = (at: number): boolean => this.#isOdd[at] === 0 && this.#links[at] === 0 && this.#words[at] === 0

  /** The only words of a node and its only link, if it has one; null of what cannot be an entry. */
  wordsOf(at: number): { readonly words: HtmlNode; readonly link: HtmlElement | null } | null {
    if (this.#isOdd[at] === 1 || this.#links[at] === 2 || this.#words[at] !== 1) return null
    const words = this.#nodes[this.#wordsAt[at]!]!
    const link = this.#links[at] === 1 ? (this.#nodes[this.#linkAt[at]!] as HtmlElement) : null
    const [inner, outer] = [rangeOf(words), link && rangeOf(link)]
    if (!inner || (link && !outer)) return null
    // Words beside a link are no name of a page.
    return outer && (inner.start < outer.start || inner.end > outer.end) ? null : { words, link }
  }
}

const few = (count: number): Few => (count > 1 ? 2 : count === 1 ? 1 : 0)

/** Attributes that no two entries have alike, or that are read as something else than they are written. */
const isOdd = ({ name, value }: HtmlAttribute): boolean =>
  name === 'id' || name.startsWith('on') || /url\(/i.test(value)

/** An entry of a run. */
interface Item {
  readonly entry: ListEntry
  readonly child: number
  readonly range: Range
  /** It as a pattern: its address and its label as values. */
  readonly pattern: string
  readonly isOwn: boolean
  readonly isLink: boolean
}

/** Without the white space at its end, which an element whose end tag was left out goes on with. */
function withoutEnd(source: string, range: Range | null): Range | null {
  if (range === null || !/\s/.test(source[range.end - 1] ?? '')) return range
  return { start: range.start, end: range.start + source.slice(range.start, range.end).trimEnd().length }
}

const plainLink = /^<li(?: class="[^"]*")?>\s*<a(?:\s(?:class|href|rel|hreflang|lang|dir|aria-current)="[^"]*")*>\s*\{entry\.label\}\s*<\/a>\s*(?:<\/li>)?$/i // prettier-ignore
const plainWords = /^<li(?: class="[^"]*")?>\s*(?:\{entry\.label\}|<(a|b|strong|em|i|u|span)(?:\s(?:class|aria-current)="[^"]*")*>\s*\{entry\.label\}\s*<\/\1>)\s*(?:<\/li>)?$/i // prettier-ignore

/** Whether entries are written as a list of links is that nothing is said of but classes. */
export const isPlainList = ({ pattern, ownPattern, abovePattern }: LinkLook): boolean =>
  [pattern, abovePattern].every((one) => one === null || plainLink.test(one)) &&
  (ownPattern === null || plainLink.test(ownPattern) || plainWords.test(ownPattern))

const collapsed = (text: string): string => text.replace(/[ \t\n\f\r]+/g, ' ')

/** An entry's source as a pattern; null of one that has something of the template language in it. */
function patternOf(source: string, range: Range, words: HtmlNode, link: HtmlElement | null): string | null {
  if (range.end - range.start > longestEntry) return null
  const inEntry = ({ start, end }: Range, text: string): TextEdit => ({
    start: start - range.start,
    end: end - range.start,
    text,
  })
  const edits: TextEdit[] = []
  if (link) {
    const at = link.attrs.find(({ name }) => name === 'href')?.at
    const value = at && attributeValueRange(source, at)
    if (!value) return null
    edits.push(inEntry(value, value.quoted ? '{entry.address}' : '"{entry.address}"'))
  }
  const { start, end } = rangeOf(words)!
  const said = source.slice(start, end)
  const label = { start: start + said.length - said.trimStart().length, end: start + said.trimEnd().length }
  edits.push(inEntry(label, '{entry.label}'))
  const entry = source.slice(range.start, range.end)
  const bare = edits.map((edit) => ({ ...edit, text: '' }))
  if (applyEdits(entry, bare).includes('{')) return null
  const text = applyEdits(entry, edits)
  // Its lines stand as deep in as it does.
  const lead = leadAt(source, range.start)
  return lead === '' ? text : text.replaceAll(`\n${lead}`, '\n')
}

/**
 * Runs of elements that are each around one link to a page, as menus are in cells or rows of a table: what stands around
 * the links is alike. Linear in the children.
 * @param places where the children are among all nodes
 */
export function linkRunsIn(
  children: readonly HtmlNode[],
  places: readonly number[],
  facts: EntryFacts,
  read: ReadLinks,
): LinkLine[] {
  const { pageOf, ownId, source } = read
  const runs: LinkLine[] = []
  let items: Item[] = []
  const end = () => {
    const run = items.length > 1 ? runOf(items, read) : null
    if (run) runs.push(run)
    items = []
  }
  for (const [child, node] of children.entries()) {
    const place = places[child]!
    const range = withoutEnd(source, rangeOf(node))
    if (range === null) end()
    else if (isElement(node) && !/^(a|br|wbr)$/.test(node.tagName) && !facts.isBlank(place)) {
      const found = facts.wordsOf(place)
      const label = found && 'value' in found.words ? shownText(found.words.value) : ''
      const id = found?.link ? pageOf(found.link) : null
      const pattern = found && patternOf(source, range, found.words, found.link)
      const isEntry = found && (id !== null || (!found.link && label.length <= mostOwn))
      if (!isEntry || pattern === null || pattern === undefined) end()
      else
        items.push({
          entry: id === null ? { says: label } : { id, label },
          child,
          range,
          pattern,
          isOwn: id === null || id === ownId,
          isLink: id !== null,
        })
    } else if (!facts.isBlank(place)) end()
  }
  end()
  return runs
}

/** What is parted by the same between every two of them, for as long as that goes on. */
function runOf(all: readonly Item[], { source, strings, digestOfChild }: ReadLinks): LinkLine | null {
  const between = all
    .slice(1)
    .map(({ range }, at) => collapsed(source.slice(all[at]!.range.end, range.start)))
  const counts = new Map<string, number>()
  for (const one of between) counts.set(one, (counts.get(one) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  if (!most || most[0].includes('{')) return null
  let [from, length, start] = [0, 0, 0]
  for (const at of all.keys()) {
    if (at > 0 && between[at - 1] !== most[0]) start = at
    if (at + 1 - start > length) [from, length] = [start, at + 1 - start]
  }
  const items = withoutHeading(all.slice(from, from + length))
  const others = items.filter(({ isOwn }) => !isOwn)
  const [first, last] = [items[0], items[items.length - 1]]
  if (!first || !last || items.length < 2 || others.length === 0) return null
  const patterns = new ClassesOfEntries()
  for (const { entry, pattern } of others) if ('id' in entry) patterns.add(entry.id, pattern)
  const { usual, other, others: apart } = patterns.told
  if (usual === null) return null
  const own = items.find(({ isOwn }) => isOwn)
  // As it is written between the first two: line breaks in it are such in a template as well.
  const [before, after] = [items[0]!.range.end, items[1]!.range.start]
  return {
    from: first.child,
    to: last.child,
    range: { start: first.range.start, end: last.range.end },
    entries: items.map(({ entry }) => entry),
    look: {
      ...inNoList,
      between: source.slice(before, after).replace(/[ \t]*\n\s*/g, '\n'),
      mark: null,
      linkClass: null,
      ownClass: null,
      aboveClass: null,
      pattern: strings.once(usual),
      ownPattern: own ? strings.once(own.pattern) : null,
      abovePattern: strings.once(other ?? usual),
      others: apart,
    },
    digest: digestOf(JSON.stringify([most[0], items.map(({ child }) => digestOfChild(child))])),
  }
}

/** Without words that head a menu: of several that are no links one is the page itself, and none where a link is. */
function withoutHeading(items: readonly Item[]): readonly Item[] {
  const words = items.filter(({ isLink }) => !isLink).length
  const isOwnLink = items.some(({ isOwn, isLink }) => isOwn && isLink)
  let left = words - (isOwnLink ? 0 : 1)
  let [start, end] = [0, items.length]
  for (; left > 0 && start < end && !items[start]!.isLink; start++) left -= 1
  for (; left > 0 && end > start && !items[end - 1]!.isLink; end--) left -= 1
  return items.slice(start, end)
}
