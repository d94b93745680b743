import { attributeOf, type HtmlElement, type HtmlNode, isElement } from '#core/markup'
import type { OldNames } from '../old-names'
import {
  charsetKey,
  childrenOf,
  descriptionKey,
  type GoalOf,
  type InOrder,
  inOrderOf,
  insideOf,
  isCharset,
  isDescription,
  saidBy,
  rangeOf,
  saidIn,
  startTagKey,
  textOfHeading,
  withoutPlace,
  writtenTag,
} from './page-tree'
import { type LinkLine, linkLinesIn } from './link-lines'
import { EntryFacts, isPlainList, linkRunsIn } from './link-runs'
import { linkListOf } from './link-lists'
import { Outline, type WrittenNode } from './outline'
import type { Strings } from './packed'
import { digestOfNode } from './tree-digest'

/** A link to a page, as a plan is read from it. */
export interface PageLink {
  readonly id: string
  readonly label: string
  /** Whether its label is what pictures say. */
  readonly isPicture: boolean
  /** How many lists it stands in. */
  readonly depth: number
}

/** Elements that a frame is made of. */
export const framing = /^(html|body|header|nav|main|footer|aside|section|article|div|table|form|center)$/

/** What a table is made of, between it and what its cells hold. */
export const ofTables = /^(thead|tbody|tfoot|tr|td|th)$/
/** Cells of a table that are looked into: one with more is no layout. */
const mostCells = 60

const listing = /^(nav|ul|ol)$/
/** Elements that a list of links is made of. */
const inLists = /^(nav|ul|ol|li|span|strong|em|b|i)$/
/** Lists within lists that are tried by themselves as well. */
const deepestList = 4

const isOfFrame = ({ tagName, attrs, sourceCodeLocation: where }: HtmlElement): boolean =>
  attrs.length > 0 && framing.test(tagName) && !!where?.startTag

const isCell = (node: HtmlNode): boolean => isElement(node) && /^t[dh]$/.test(node.tagName)

/** Where a page is read: what its references lead to, and strings it has in common with others. */
export interface Reading {
  readonly id: string
  readonly path: string
  readonly text: string
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

/** What is known of each node of a page from those within it, by its place among all. */
interface FromWithin {
  readonly digests: readonly (string | null)[]
  /** Whether it is of nothing but what a list of links to pages is made of. */
  readonly isListable: readonly boolean[]
  /** Elements with a list, a link and a heading of the first level in them. */
  readonly holding: ReadonlySet<HtmlNode>
  readonly linking: ReadonlySet<HtmlNode>
  readonly headed: ReadonlySet<HtmlNode>
  /** Cells of tables, and of the parts of them. */
  readonly cells: readonly number[]
  /** Lines of links among the children of an element. */
  readonly lines: ReadonlyMap<HtmlNode, readonly LinkLine[]>
}

/** Upwards: what is in an element is known before it. */
function readUpwards(inOrder: InOrder, reading: Reading): FromWithin {
  const { nodes, parents, again } = inOrder
  const entries = new EntryFacts(inOrder)
  const digests = new Array<string | null>(nodes.length).fill(null)
  const inside = new Array<string>(nodes.length).fill('')
  const isListable = new Array<boolean>(nodes.length).fill(false)
  const hasOther = new Array<boolean>(nodes.length).fill(false)
  const cells = new Array<number>(nodes.length).fill(0)
  const lines = new Map<HtmlNode, readonly LinkLine[]>()
  /** How many nodes are in each, itself included. */
  const sizes = new Int32Array(nodes.length).fill(1)
  const linkedFrom = new Set<HtmlNode>()
  /** What stands around a link that is in none of these. */
  const around = new Set<HtmlNode>()
  const [holding, linking, headed] = [new Set<HtmlNode>(), new Set<HtmlNode>(), new Set<HtmlNode>()]
  /** Where the children of a node are, in order. */
  const placesIn = (of: number): number[] => {
    const places: number[] = []
    for (let at = of + 1; at < of + sizes[of]!; at += sizes[at]!) places.push(at)
    return places
  }
  for (let at = nodes.length - 1; at >= 0; at--) {
    const node = nodes[at]!
    const holder = parents[at]!
    const digest = digestOfNode(node, inside[at]!, reading.goalOf)
    digests[at] = digest
    if (digest !== null && holder >= 0) inside[holder] = digest + inside[holder]!
    if (holder >= 0) sizes[holder]! += sizes[at]!
    entries.add(at, holder)
    if (!isElement(node)) continue
    if (linkedFrom.has(node) || around.has(node)) {
      const places = placesIn(at)
      const told = {
        pageOf: (link: HtmlElement) => pageOf(link, reading),
        ownId: reading.id,
        source: reading.text,
        strings: reading.strings,
        again,
        digestOfChild: (child: number) => digests[places[child]!] ?? null,
      }
      const direct = linkedFrom.has(node) ? linkLinesIn(node, told) : []
      const runs = direct.length > 0 ? [] : linkRunsIn(childrenOf(node), places, entries, told)
      // The entries of a list are told as such, where they are what those of a part without a word are.
      const isList = /^([uo]l|menu)$/.test(node.tagName)
      const found = direct.length > 0 ? direct : isList ? runs.filter(({ look }) => !isPlainList(look)) : runs
      if (found.length > 0) lines.set(node, found)
    }
    const { tagName } = node
    const isLink =
      tagName === 'a' && (attributeOf(node, 'href') === undefined || pageOf(node, reading) !== null)
    isListable[at] = (isLink || inLists.test(tagName)) && !hasOther[at]
    if (holder < 0) continue
    const above = nodes[holder]!
    if (!isListable[at]) hasOther[holder] = true
    if (holding.has(node) || listing.test(tagName)) holding.add(above)
    if (tagName === 'a') linkedFrom.add(above)
    else if (linkedFrom.has(node) || around.has(node)) around.add(above)
    if (linking.has(node) || tagName === 'a') linking.add(above)
    if (headed.has(node) || tagName === 'h1') headed.add(above)
    if (isCell(node)) cells[holder]! += 1
    else if (tagName === 'table' || ofTables.test(tagName)) cells[holder]! += cells[at]!
  }
  return { digests, isListable, holding, linking, headed, cells, lines }
}

/** What is known of a page from what its nodes stand in. */
interface FromAround {
  readonly links: readonly PageLink[]
  readonly lists: ReadonlyMap<HtmlNode, NonNullable<WrittenNode['list']>>
  /** What tables are made of that put a page's parts side by side. */
  readonly laidOut: ReadonlySet<HtmlNode>
}

/** Downwards: how deep in lists it stands. */
function readDownwards({ nodes, parents }: InOrder, reading: Reading, within: FromWithin): FromAround {
  const links: PageLink[] = []
  const lists = new Map<HtmlNode, NonNullable<WrittenNode['list']>>()
  const laidOut = new Set<HtmlNode>()
  /** Lists that an element stands in, itself included; those of them that are tried; and whether it is in a link. */
  const depths = new Array<number>(nodes.length).fill(0)
  const tried = new Array<number>(nodes.length).fill(0)
  const linked = new Array<boolean>(nodes.length).fill(false)
  for (let at = 0; at < nodes.length; at++) {
    const node = nodes[at]!
    if (!isElement(node)) continue
    const { tagName } = node
    const holder = parents[at]!
    const [outer, before, isLinked] =
      holder < 0 ? [0, 0, false] : [depths[holder]!, tried[holder]!, linked[holder]!]
    const above = holder < 0 ? null : nodes[holder]!
    if (above && ofTables.test(tagName)) {
      const isTable = isElement(above) && above.tagName === 'table'
      if (isTable ? within.cells[holder]! <= mostCells : laidOut.has(above) && !isCell(above))
        laidOut.add(node)
    }
    // What leads on to the next page or back says nothing of a plan (HTML §4.6.7.13).
    if (/^(a|area)$/.test(tagName) && !isLinked && !/\b(next|prev)\b/i.test(attributeOf(node, 'rel') ?? '')) {
      const id = pageOf(node, reading)
      if (id !== null) links.push({ id, ...saidIn(node), depth: outer })
    }
    const isTried =
      before < deepestList &&
      listing.test(tagName) &&
      within.isListable[at]! &&
      // Links one after the other are no list.
      (within.holding.has(node) || !within.lines.has(node)) &&
      !!node.sourceCodeLocation?.endTag
    if (isTried)
      lists.set(
        node,
        linkListOf(node, (link) => pageOf(link, reading), reading.id, within),
      )
    else if (/^(p|div|nav)$/.test(tagName)) {
      const [line, another] = within.lines.get(node) ?? []
      if (line && !another && isAll(node, line, reading.text))
        lists.set(node, {
          entries: line.entries,
          attributes: node.attrs.map(withoutPlace),
          look: line.look,
        })
    }
    depths[at] = outer + (/^(ul|ol|menu|dl)$/.test(tagName) ? 1 : 0)
    tried[at] = before + (isTried ? 1 : 0)
    linked[at] = isLinked || tagName === 'a'
  }
  return { links, lists, laidOut }
}

/** Whether an element is a line of links and nothing else. */
function isAll(element: HtmlElement, { range }: LinkLine, text: string): boolean {
  const inside = insideOf(element)
  return (
    inside !== null &&
    text.slice(inside.start, range.start).trim() === '' &&
    text.slice(range.end, inside.end).trim() === ''
  )
}

/** A line of links as one node. */
const writtenLine = (
  { range, entries, look, digest }: LinkLine,
  key: string,
  parent: number,
): WrittenNode => ({
  parent,
  tagName: null,
  tag: null,
  key,
  digest,
  range,
  inside: null,
  name: null,
  says: null,
  list: { entries, attributes: [], look },
})

/**
 * What lines of links are told apart by: what they stand in, and where a page has several like that, which of them each is.
 * A page has its menu at its top, and at its end once more, whatever its texts have between.
 */
function keysOfLines(
  { nodes }: InOrder,
  { lines }: FromWithin,
  goalOf: GoalOf,
): ReadonlyMap<LinkLine, string> {
  const alike = new Map<string, LinkLine[]>()
  for (const node of lines.size > 0 ? nodes : [])
    for (const line of lines.get(node) ?? []) {
      const holder = isElement(node) ? startTagKey(node, goalOf) : ''
      const others = alike.get(holder)
      if (others) others.push(line)
      else alike.set(holder, [line])
    }
  const keys = new Map<LinkLine, string>()
  for (const [holder, all] of alike)
    for (const [nth, line] of all.entries()) {
      const which = nth === 0 ? 'first' : nth === all.length - 1 ? 'last' : nth
      keys.set(line, `${which} line in ${holder}`)
    }
  return keys
}

/** Reads what is kept of a page's tree, and its links to pages. Each node once, however deep they stand. */
export function outlineOf(
  root: HtmlNode,
  reading: Reading,
): { readonly outline: Outline; readonly links: readonly PageLink[] } {
  const { goalOf, strings } = reading
  const inOrder = inOrderOf(root)
  const { nodes, parents, again } = inOrder
  const within = readUpwards(inOrder, reading)
  const { links, lists, laidOut } = readDownwards(inOrder, reading, within)

  const isLookedInto = (node: HtmlNode): boolean =>
    isElement(node) &&
    (framing.test(node.tagName) ||
      /^(head|h1)$/.test(node.tagName) ||
      within.holding.has(node) ||
      within.lines.has(node) ||
      laidOut.has(node))
  const lineKeys = keysOfLines(inOrder, within, goalOf)
  /** How many children of a node have been passed. */
  const passed = new Int32Array(nodes.length)
  /** How many lines among them end before the next child. */
  const behind = new Int32Array(nodes.length)
  const tagKey = (one: HtmlElement) => {
    const said = saidBy(one)
    if (said) return said.key
    const [line] = within.lines.get(one) ?? []
    // Many a page has its menu in a paragraph like all others.
    if (line && !framing.test(one.tagName) && !ofTables.test(one.tagName))
      return `with ${lineKeys.get(line)!}`
    return isDescription(one) ? descriptionKey : isCharset(one) ? charsetKey : startTagKey(one, goalOf)
  }
  const kept: WrittenNode[] = []
  /** Which of those kept a node is. */
  const places = new Array<number>(nodes.length).fill(-1)
  for (let at = 1; at < nodes.length; at++) {
    const node = nodes[at]!
    const digest = within.digests[at]!
    const holder = parents[at]!
    const child = passed[holder]!++
    // White space, and what stands in an element that is one thing.
    if (digest === null || !(holder === 0 || (places[holder]! >= 0 && isLookedInto(nodes[holder]!)))) continue
    const lines = within.lines.get(nodes[holder]!)
    while (lines && lines[behind[holder]!] && lines[behind[holder]!]!.to < child) behind[holder]!++
    const line = lines?.[behind[holder]!]
    if (line && child >= line.from) {
      if (child === line.from) kept.push(writtenLine(line, lineKeys.get(line)!, places[holder]!))
      continue
    }
    const element = isElement(node) ? node : null
    const stands = !again.has(node)
    const value = (name: string) => element && attributeOf(element, name)
    places[at] =
      kept.push({
        parent: places[holder]!,
        tagName: element && element.tagName,
        tag: element && stands && isOfFrame(element) ? writtenTag(element, reading.text, goalOf) : null,
        key: element && tagKey(element),
        digest,
        range: stands ? rangeOf(node) : null,
        inside: element && stands ? insideOf(element) : null,
        name: (value('id') ?? value('class') ?? '') || null,
        // One around others is no label, and each of them would be read as often as it is deep.
        says: element?.tagName === 'h1' && !within.headed.has(node) ? textOfHeading(element) : null,
        list: (stands && lists.get(node)) || null,
      }) - 1
  }
  return { outline: new Outline(kept, strings), links }
}
