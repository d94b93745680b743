import { attributeOf, type HtmlElement, type HtmlNode, isElement, type Range, walkHtml } from '#core/markup'
import type { OldNames } from '../old-names'
import {
  charsetKey,
  childrenOf,
  descriptionKey,
  type GoalOf,
  insideOf,
  isCharset,
  isDescription,
  saidBy,
  rangeOf,
  startTagKey,
  textIn,
} from './page-tree'
import { digestOfNode } from './tree-digest'

/** An entry of a list: the page it leads to, or what it says where it leads nowhere. */
export type ListEntry = { readonly id: string } | { readonly says: string }

/**
 * A node of what is kept of a page's tree: the elements a frame is made of, what they hold, and lists of links wherever
 * they stand. Anything else is one thing as a whole, whatever is in it: all pages of a site are held at once.
 */
export interface OutlineNode {
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
  /** Of a heading of the first level. */
  readonly says: string | null
  /** Of a list of nothing but pages. */
  readonly list: { readonly entries: readonly ListEntry[]; readonly attributes: HtmlElement['attrs'] } | null
}

/** A link to a page, as a plan is read from it. */
export interface PageLink {
  readonly id: string
  readonly label: string
  /** How many lists it stands in. */
  readonly depth: number
}

/** Elements that a frame is made of. */
export const framing = /^(html|body|header|nav|main|footer|aside|section|article|div|table|form|center)$/

/** What a table is made of, between it and what its cells hold. */
const ofTables = /^(thead|tbody|tfoot|tr|td|th)$/
/** Cells of a table that are looked into: one with more is no layout. */
const mostCells = 60

const listing = /^(nav|ul|ol)$/
/** Elements that a list of links is made of. */
const inLists = /^(nav|ul|ol|li|span|strong|em|b|i)$/
/** Lists within lists that are tried by themselves as well. */
const deepestList = 4

const isCell = (node: HtmlNode): boolean => isElement(node) && /^t[dh]$/.test(node.tagName)

/** Equal strings of many pages, kept once. */
export class Strings {
  readonly #known = new Map<string, string>()
  once(text: string): string {
    const known = this.#known.get(text)
    if (known !== undefined) return known
    this.#known.set(text, text)
    return text
  }
}

/** Where a page is read: what its references lead to, and strings it has in common with others. */
export interface Reading {
  readonly path: string
  readonly goalOf: GoalOf
  readonly old: Pick<OldNames, 'resolve'>
  readonly strings: Strings
}

/** The page that a link leads to; null where it leads to none, or to a place in one. */
function pageOf(element: HtmlElement, { old, path }: Reading): string | null {
  const href = attributeOf(element, 'href')
  const target = href === undefined ? null : old.resolve(href.trim(), path)
  return target?.kind === 'page' && target.suffix === '' ? target.id : null
}

const nothing: readonly OutlineNode[] = []

/**
 * What a list has, once it is known to be of nothing but links and words.
 * @param linking elements with a link in them
 * @param holding elements with a list in them: what all of it says is no label
 */
function entriesOf(
  element: HtmlElement,
  reading: Reading,
  linking: ReadonlySet<HtmlNode>,
  holding: ReadonlySet<HtmlNode>,
): ListEntry[] {
  const entries: ListEntry[] = []
  walkHtml(element, (node) => {
    if (!isElement(node)) return
    if (node.tagName === 'a') {
      const id = pageOf(node, reading)
      entries.push(id === null ? { says: textIn(node) } : { id })
    } else if (node.tagName === 'li' && !linking.has(node))
      entries.push({ says: holding.has(node) ? '' : textIn(node) })
  })
  return entries
}

/** Reads what is kept of a page's tree, and its links to pages. Each node once, however deep they stand. */
export function outlineOf(
  root: HtmlNode,
  reading: Reading,
): { readonly top: readonly OutlineNode[]; readonly links: readonly PageLink[] } {
  const { goalOf, strings } = reading
  const inOrder: HtmlNode[] = []
  walkHtml(root, (node) => void inOrder.push(node))

  // Upwards: what is in an element is known before it.
  const digests = new Map<HtmlNode, string>()
  const listable = new Set<HtmlNode>()
  const holding = new Set<HtmlNode>()
  const linking = new Set<HtmlNode>()
  const headed = new Set<HtmlNode>()
  const cells = new Map<HtmlNode, number>()
  for (let at = inOrder.length - 1; at >= 0; at--) {
    const node = inOrder[at]!
    const digest = digestOfNode(node, digests, goalOf)
    if (digest !== null) digests.set(node, digest)
    if (!isElement(node)) continue
    const { tagName } = node
    const isLink =
      tagName === 'a' && (attributeOf(node, 'href') === undefined || pageOf(node, reading) !== null)
    const elements = childrenOf(node).filter(isElement)
    if ((isLink || inLists.test(tagName)) && elements.every((child) => listable.has(child)))
      listable.add(node)
    if (elements.some((child) => holding.has(child) || listing.test(child.tagName))) holding.add(node)
    if (elements.some((child) => linking.has(child) || child.tagName === 'a')) linking.add(node)
    if (elements.some((child) => headed.has(child) || child.tagName === 'h1')) headed.add(node)
    if (tagName === 'table' || (ofTables.test(tagName) && !/^t[dh]$/.test(tagName)))
      cells.set(node, elements.reduce((sum, one) => sum + (/^t[dh]$/.test(one.tagName) ? 1 : (cells.get(one) ?? 0)), 0)) // prettier-ignore
  }

  // Downwards: how deep in lists it stands.
  const links: PageLink[] = []
  const depths = new Map<HtmlNode, { lists: number; tried: number; linked: boolean }>()
  const lists = new Map<HtmlNode, NonNullable<OutlineNode['list']>>()
  const laidOut = new Set<HtmlNode>()
  for (const node of inOrder) {
    const above = depths.get('parentNode' in node ? (node.parentNode as HtmlNode) : node)
    const { lists: outer, tried, linked } = above ?? { lists: 0, tried: 0, linked: false }
    const holder = 'parentNode' in node ? (node.parentNode as HtmlNode) : null
    const isTable = holder !== null && isElement(holder) && holder.tagName === 'table'
    if (isElement(node) && ofTables.test(node.tagName) && holder)
      if (isTable ? cells.get(holder)! <= mostCells : laidOut.has(holder) && !isCell(holder))
        laidOut.add(node)
    if (!isElement(node)) {
      depths.set(node, { lists: outer, tried, linked })
      continue
    }
    const { tagName } = node
    // What leads on to the next page or back says nothing of a plan (HTML §4.6.7.13).
    if (tagName === 'a' && !linked && !/\b(next|prev)\b/i.test(attributeOf(node, 'rel') ?? '')) {
      const id = pageOf(node, reading)
      if (id !== null) links.push({ id, label: strings.once(textIn(node)), depth: outer })
    }
    const isTried =
      tried < deepestList && listing.test(tagName) && listable.has(node) && !!node.sourceCodeLocation?.endTag
    if (isTried)
      lists.set(node, { entries: entriesOf(node, reading, linking, holding), attributes: node.attrs })
    depths.set(node, {
      lists: outer + (/^(ul|ol|menu|dl)$/.test(tagName) ? 1 : 0),
      tried: tried + (isTried ? 1 : 0),
      linked: linked || tagName === 'a',
    })
  }

  // Upwards again: what is looked into, with what it holds.
  const made = new Map<HtmlNode, OutlineNode>()
  const madeOf = (nodes: readonly HtmlNode[]) => nodes.flatMap((node) => made.get(node) ?? [])
  const isLookedInto = (node: HtmlNode): boolean =>
    isElement(node) &&
    (framing.test(node.tagName) || /^(head|h1)$/.test(node.tagName) || holding.has(node) || laidOut.has(node))
  for (let at = inOrder.length - 1; at >= 0; at--) {
    const node = inOrder[at]!
    const digest = digests.get(node)
    const parent = 'parentNode' in node ? (node.parentNode as HtmlNode) : null
    // White space, and what stands in an element that is one thing.
    if (digest === undefined || !(parent === null || parent === root || isLookedInto(parent))) continue
    const element = isElement(node) ? node : null
    const value = (name: string) => element && attributeOf(element, name)
    const tagKey = (one: HtmlElement) => {
      const said = saidBy(one)
      if (said) return said.key
      return isDescription(one) ? descriptionKey : isCharset(one) ? charsetKey : startTagKey(one, goalOf)
    }
    made.set(node, {
      tagName: element ? strings.once(element.tagName) : null,
      key: element ? strings.once(tagKey(element)) : `= ${digest}`,
      digest,
      range: rangeOf(node),
      inside: element && insideOf(element),
      name: strings.once(value('id') ?? value('class') ?? '') || null,
      children: isLookedInto(node) ? madeOf(childrenOf(node)) : nothing,
      // One around others is no label, and each of them would be read as often as it is deep.
      says: element?.tagName === 'h1' && !headed.has(node) ? textIn(node) : null,
      list: lists.get(node) ?? null,
    })
  }
  return { top: madeOf(childrenOf(root)), links }
}
