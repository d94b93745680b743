import { attributeOf, type HtmlElement, type HtmlNode, isElement, type Range } from '#core/markup'

/**
 * The part whose entries a `template` element writes in its author's own HTML: what its attribute `part` names; null for
 * any other element.
 */
export const patternPart = (element: HtmlElement): string | null =>
  element.tagName === 'template' ? (attributeOf(element, 'part') ?? null) : null

/**
 * What can be said by itself: how any entry is written, the page's own, one of a page above it, and what stands between
 * every two. With `each`, all else stands once around them.
 */
export const whichEntries = ['each', 'own', 'above', 'between'] as const
export type WhichEntries = (typeof whichEntries)[number]

const isWhich = (name: string): name is WhichEntries => (whichEntries as readonly string[]).includes(name)

/** Where in the source it is said how entries are written. */
export interface PatternRanges extends Readonly<Partial<Record<Exclude<WhichEntries, 'each'>, Range>>> {
  /** What stands for each entry, in stretches: those that are written otherwise stand among them. */
  readonly each: readonly Range[]
  /** What stands around all entries, up to them and after them. */
  readonly before: readonly Range[]
  readonly after: readonly Range[]
  /** White space in front of the first entry, after what stands around them. */
  readonly first: string
  /** White space in front of the others. */
  readonly lead: string
  /** Where the line begins that says how far in they stand. */
  readonly at: number
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

const leadOf = (source: string, { start, end }: Range): string => /^\s*/.exec(source.slice(start, end))![0]

/** Reads a pattern; of several that say the same the last one holds. */
export function patternRanges(source: string, element: HtmlElement): PatternRanges {
  const begin = element.sourceCodeLocation!.startOffset
  const inside = insideRange(element)
  if (!inside) return { each: [], before: [], after: [], first: '', lead: '', at: begin }
  const those = whichIn(element).map((one) => ({
    which: attributeOf(one, 'which')!,
    start: one.sourceCodeLocation!.startOffset,
    end: one.sourceCodeLocation!.endOffset,
    within: insideRange(one)!,
  }))
  const said: Partial<Record<WhichEntries, Range>> = {}
  for (const { which, within } of those)
    if (isWhich(which)) said[which] = trimmedIn(source, within.start, within.end)
  const { each, ...others } = said
  /** What stands beside those, with all white space. */
  const beside = [inside.start, ...those.map(({ end }) => end)].map((start, at) => ({
    start,
    end: those[at]?.start ?? inside.end,
  }))
  const written = (ranges: readonly Range[]) =>
    ranges.map(({ start, end }) => trimmedIn(source, start, end)).filter(({ start, end }) => end > start)
  const nth = those.findIndex(({ which }) => which === 'each')
  if (!each || nth < 0)
    return {
      each: written(beside),
      before: [],
      after: [],
      first: '',
      ...others,
      lead: leadOf(source, inside),
      at: begin,
    }
  const own = those[nth]!
  const [last, upTo] = [beside[beside.length - 1]!, beside[nth]!]
  const first = /\s*$/.exec(source.slice(Math.max(upTo.start, upTo.end - 1_000), upTo.end))![0]
  const inLead = leadOf(source, own.within)
  return {
    each: [each],
    before: written(beside.slice(0, nth + 1)),
    after: [
      ...written(beside.slice(nth + 1, -1)),
      { start: last.start, end: trimmedIn(source, last.start, last.end).end },
    ].filter(({ start, end }) => end > start),
    ...others,
    first,
    lead: inLead === '' ? first : inLead,
    at: own.start,
  }
}
