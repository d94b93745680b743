import { attributeOf, type HtmlElement, type HtmlNode, isElement, type Range } from '#core/markup'

/**
 * The part whose entries a `template` element writes in its author's own HTML: what its attribute `part` names; null for
 * any other element.
 */
export const patternPart = (element: HtmlElement): string | null =>
  element.tagName === 'template' ? (attributeOf(element, 'part') ?? null) : null

/** Entries that can be written otherwise than the others, and what stands between every two. */
export const whichEntries = ['own', 'above', 'between'] as const
export type WhichEntries = (typeof whichEntries)[number]

const isWhich = (name: string): name is WhichEntries => (whichEntries as readonly string[]).includes(name)

/** Where in the source it is said how entries are written. */
export interface PatternRanges extends Readonly<Partial<Record<WhichEntries, Range>>> {
  /** What stands for each entry, in stretches: those that are written otherwise stand among them. */
  readonly each: readonly Range[]
  /** White space in front of the first entry, which stands in front of the others as well. */
  readonly lead: string
}

/** A stretch without the white space at its ends. */
export function trimmedIn(source: string, start: number, end: number): Range {
  const text = source.slice(start, end)
  const lead = text.length - text.trimStart().length
  return lead === text.length
    ? { start, end: start }
    : { start: start + lead, end: start + text.trimEnd().length }
}

/** What stands between the tags of an element; null of one that does not end. */
export function insideRange({ sourceCodeLocation: where }: HtmlElement): Range | null {
  return where?.startTag && where.endTag
    ? { start: where.startTag.endOffset, end: where.endTag.startOffset }
    : null
}

/** What stands in a `template` (HTML §4.12.3), which is no child of it. */
const contentOf = (element: HtmlElement): readonly HtmlNode[] =>
  'content' in element
    ? (element as HtmlElement & { content: { childNodes: HtmlNode[] } }).content.childNodes
    : []

/**
 * Elements in a pattern that say how some entries are written, in their order: after an element whose end tag was left out
 * they stand in that (HTML §13.1.2.4).
 */
export function whichIn(element: HtmlElement): HtmlElement[] {
  const found: HtmlElement[] = []
  const stack = [...contentOf(element)].reverse()
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (!isElement(node)) continue
    if (node.tagName !== 'template') for (const child of [...node.childNodes].reverse()) stack.push(child)
    else if (attributeOf(node, 'which') !== undefined && insideRange(node)) found.push(node)
  }
  return found
}

/** Reads a pattern; of several that say the same the last one holds. */
export function patternRanges(source: string, element: HtmlElement): PatternRanges {
  const inside = insideRange(element)
  if (!inside) return { each: [], lead: '' }
  const each: Range[] = []
  const others: Partial<Record<WhichEntries, Range>> = {}
  let at = inside.start
  const addUpTo = (end: number) => {
    const range = trimmedIn(source, at, end)
    if (range.end > range.start) each.push(range)
  }
  for (const one of whichIn(element)) {
    const where = one.sourceCodeLocation!
    const within = insideRange(one)!
    addUpTo(where.startOffset)
    at = where.endOffset
    const which = attributeOf(one, 'which')!
    if (isWhich(which)) others[which] = trimmedIn(source, within.start, within.end)
  }
  addUpTo(inside.end)
  return { each, ...others, lead: /^\s*/.exec(source.slice(inside.start, inside.end))![0] }
}
