import { attributeOf, digestOf, type HtmlElement, type HtmlNode, isElement, type Range } from '#core/markup'
import { marks } from '#core/template'
import { ClassesOfEntries } from './entry-classes'
import { inNoList, type LinkLook, type ListEntry, notPatterned } from './outline'
import type { Strings } from './packed'
import { childrenOf, rangeOf, textIn } from './page-tree'

/** A stretch of an element that is links to pages, one after the other, with the same between every two of them. */
export interface LinkLine {
  /** Of the element's children, the first and the last that some of it is in. */
  readonly from: number
  readonly to: number
  /** From its first entry to the end of its last; without what stands before and after. */
  readonly range: Range
  readonly entries: readonly ListEntry[]
  readonly look: LinkLook
  readonly digest: string
}

/** What is known where links are read. */
export interface ReadLinks {
  /** The page that a link leads to, or null. */
  readonly pageOf: (link: HtmlElement) => string | null
  /** The page that they are on. */
  readonly ownId: string
  /** The text that they stand in. */
  readonly source: string
  /** Strings that many pages have, kept once. */
  readonly strings: Strings
  /** Elements that stand nowhere in it. */
  readonly again: ReadonlySet<HtmlNode>
  /** Of the nth child of their element: equal ones, equal subtrees. */
  readonly digestOfChild: (child: number) => string | null
}

/** What can be an entry of a line. */
interface Item {
  readonly entry: ListEntry
  readonly child: number
  readonly range: Range
  readonly class: string
  /** The element that it is, other than a link. */
  readonly mark: string | null
  /** Whether it is the page's own. */
  readonly isOwn: boolean
  /** Whether it is mere words, which something has to part from the words around them. */
  readonly isBare: boolean
}

/** What links are parted by, with an item between every two. */
interface Stretch {
  readonly items: Item[]
  /** Before each of them, and after the last. */
  readonly between: string[]
}

/** Letters that are taken for what a page is called, where it is no link. */
const mostOwn = 120

/** Signs and spaces at the beginning: what is no letter and no number. */
const signs = /^[^\p{L}\p{N}]*/u
const letter = /[\p{L}\p{N}]/u

/** A text without the signs at its end; letter by letter, since a pattern would try each row of signs within it. */
function withoutSigns(text: string): string {
  let end = text.length
  while (end > 0) {
    const last = text.slice(/[\uDC00-\uDFFF]/.test(text[end - 1]!) ? end - 2 : end - 1, end)
    if (letter.test(last)) break
    end -= last.length || 1
  }
  return text.slice(0, end)
}

/** Attributes of a link that a generated part writes as well. */
const ofLinks = /^(href|class|hreflang|lang|dir|rel|aria-current)$/

/** Where in its source a text is after so many letters of it; null where they cannot be told. */
function sourcePlace(source: string, length: number, letters: number): number | null {
  if (source.length === length) return letters
  let place = 0
  for (let at = 0; at < letters; at++)
    place += source[place] === '&' ? (/^&#?\w+;?/.exec(source.slice(place, place + 40))?.[0].length ?? 1) : 1
  return place <= source.length ? place : null
}

/** Text as it is shown: `between` keeps its spaces at the ends, one each. */
const collapsed = (text: string): string => text.replace(/[ \t\n\f\r]+/g, ' ')

/** What parts two links as a part would write it: spaces around a line break are none. */
const written = (between: string): string => collapsed(between).replace(/ ?(<br>) ?/g, '$1')

const isOnlyText = (element: HtmlElement) =>
  childrenOf(element).every((child) => child.nodeName === '#text') && textIn(element) !== ''

/**
 * Lines of links among the children of an element. Linear in them.
 */
export function linkLinesIn(
  element: HtmlNode,
  { pageOf, ownId, source, again, digestOfChild }: ReadLinks,
): LinkLine[] {
  const children = childrenOf(element)
  const stretches: Stretch[] = []
  let stretch: Stretch = { items: [], between: [''] }
  const end = () => {
    if (stretch.items.length > 1) stretches.push(stretch)
    stretch = { items: [], between: [''] }
  }
  const part = (text: string) => void (stretch.between[stretch.between.length - 1]! += text)
  const add = (item: Item) => {
    stretch.items.push(item)
    stretch.between.push('')
  }
  const addText = (text: string, range: Range, child: number) => {
    const lead = signs.exec(text)![0].length
    if (lead === text.length) return part(text)
    const rest = text.slice(lead)
    const label = withoutSigns(rest)
    const inSource = source.slice(range.start, range.end)
    const start = sourcePlace(inSource, text.length, lead)
    const stop = sourcePlace(inSource, text.length, lead + label.length)
    if (label.length > mostOwn || start === null || stop === null) return end()
    part(text.slice(0, lead))
    add({
      entry: { says: collapsed(label) },
      child,
      range: { start: range.start + start, end: range.start + stop },
      class: '',
      mark: 'span',
      isOwn: true,
      isBare: true,
    })
    part(rest.slice(label.length))
  }
  for (const [child, node] of children.entries()) {
    const range = again.has(node) ? null : rangeOf(node)
    if (!range) end()
    else if (node.nodeName === '#text' && 'value' in node) addText(node.value, range, child)
    else if (!isElement(node)) end()
    else if (node.tagName === 'br') part('<br>')
    else if (!marks.includes(node.tagName) || !isOnlyText(node) || !node.sourceCodeLocation?.endTag) end()
    else {
      const isLink = attributeOf(node, 'href') !== undefined
      const id = isLink ? pageOf(node) : null
      const isPlain = node.attrs.every(({ name }) => ofLinks.test(name))
      if (isLink && (id === null || !isPlain)) end()
      else
        add({
          entry: id === null ? { says: textIn(node) } : { id, label: textIn(node) },
          child,
          range,
          class: attributeOf(node, 'class') ?? '',
          mark: isLink ? null : node.tagName,
          isOwn: id === null || id === ownId,
          isBare: false,
        })
    }
  }
  end()
  return stretches.flatMap((one) => longestLine(one, digestOfChild) ?? [])
}

/** The longest line in a stretch: what parts most of its links parts all of a line. */
function longestLine(
  { items, between }: Stretch,
  digestOfChild: (child: number) => string | null,
): LinkLine | null {
  const parting = between.map(written)
  const counts = new Map<string, number>()
  for (const one of parting.slice(1, -1)) counts.set(one, (counts.get(one) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  if (!most) return null
  const [usual] = most
  const isBlank = usual.trim() === ''
  let [from, length] = [0, 0]
  let start = 0
  for (const [at, item] of items.entries()) {
    // Words that only a space parts from what is around them begin and end nowhere.
    if (item.isBare && isBlank) start = at + 1
    else if (parting[at] !== usual) start = at
    if (at + 1 - start > length) [from, length] = [start, at + 1 - start]
  }
  const best = items.slice(from, from + length)
  const links = best.filter(({ mark }) => mark === null)
  const others = links.filter(({ isOwn }) => !isOwn)
  const [first, last] = [best[0], best[best.length - 1]]
  if (!first || !last || best.length < 2 || links.length === 0) return null
  const classes = new ClassesOfEntries()
  for (const { entry, class: name } of others) if ('id' in entry) classes.add(entry.id, name)
  const { usual: linkClass, other: aboveClass, others: apart } = classes.told
  if (others.length > 0 && linkClass === null) return null
  const own = best.find(({ isOwn }) => isOwn)
  const digests = best.map(({ entry, isBare, child }) => (isBare ? entry : digestOfChild(child)))
  return {
    from: first.child,
    to: last.child,
    range: { start: first.range.start, end: last.range.end },
    entries: best.map(({ entry }) => entry),
    look: {
      between: usual,
      mark: own ? (own.mark ?? 'a') : null,
      ...inNoList,
      ...notPatterned,
      linkClass,
      ownClass: own && !own.isBare ? own.class : null,
      aboveClass: aboveClass ?? linkClass,
      others: apart,
    },
    digest: digestOf(JSON.stringify([usual, digests])),
  }
}
