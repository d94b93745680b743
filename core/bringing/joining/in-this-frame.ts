import type { PageTrace } from '#core/build'
import {
  attributeOf,
  type HtmlElement,
  type HtmlNode,
  isElement,
  parseHtml,
  type Range,
  walkHtml,
} from '#core/markup'
import { mainSlot } from '#core/site'
import { bodyRange } from '#core/texts'
import { childrenOf, insideOf, textIn } from '../reading/page-tree'

/** Where a template of the site writes what a page holds: the element around it, and what stands beside it there. */
export interface Frame {
  readonly holder: string
  readonly before: readonly string[]
  readonly after: readonly string[]
}

/** What an element is known by on every page: headings say something else on each, and marks come and go. */
const keyOf = (element: HtmlElement): string =>
  element.tagName === 'h1'
    ? 'h1'
    : `${element.tagName}#${attributeOf(element, 'id') ?? ''}.${attributeOf(element, 'class') ?? ''}`

const elementsIn = (node: HtmlNode): HtmlElement[] =>
  childrenOf(node).filter((child): child is HtmlElement => isElement(child) && !!child.sourceCodeLocation)

/** Reads the frame from a finished page of the site; null where its template shows nothing of the page's own. */
export function frameOf({ text, trace }: Pick<PageTrace, 'text' | 'trace'>): Frame | null {
  const isSlot = ({ origin }: PageTrace['trace'][number]) =>
    origin.kind === 'slot' && origin.name === mainSlot
  const first = trace.findIndex(isSlot)
  if (first < 0) return null
  const last = trace.findLastIndex(isSlot)
  const slot = { start: trace[first - 1]?.end ?? 0, end: trace[last]!.end }
  let holder: HtmlElement | null = null
  walkHtml(parseHtml(text, true).root, (node) => {
    if (!isElement(node)) return
    const inside = insideOf(node)
    // Parents are met before what is in them, so the last one that fits is the nearest.
    if (inside && inside.start <= slot.start && inside.end >= slot.end) holder = node
  })
  if (holder === null) return null
  const beside = elementsIn(holder)
  return {
    holder: keyOf(holder),
    before: beside.filter((one) => one.sourceCodeLocation!.endOffset <= slot.start).map(keyOf),
    after: beside.filter((one) => one.sourceCodeLocation!.startOffset >= slot.end).map(keyOf),
  }
}

/** The nearest thing to a frame where a page has none of this site: its body, with its heading in front. */
const anyBody: Omit<Frame, 'holder'> = { before: ['h1'], after: [] }

/**
 * Where in a page stands what its template would have it hold: within the element that the site's own pages have
 * it in, without what the template writes beside it there. Of a page made otherwise, its body.
 * @param says whether a heading says what the template says by itself
 */
export function contentIn(text: string, frame: Frame | null, says: (heading: string) => boolean): Range {
  const holders: HtmlElement[] = []
  let body: HtmlElement | null = null
  const { root } = parseHtml(text, true)
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    if (node.tagName === 'body') body ??= node
    if (frame && keyOf(node) === frame.holder && insideOf(node)) holders.push(node)
  })
  const isFramed = frame !== null && holders.length === 1
  const holder = isFramed ? holders[0]! : body
  const inside = (isFramed && insideOf(holders[0]!)) || bodyRange(text, root)
  const { before, after } = isFramed ? frame : anyBody
  const beside = holder ? elementsIn(holder) : []
  const isFixed = (element: HtmlElement | undefined, key: string) =>
    element !== undefined && keyOf(element) === key && (key !== 'h1' || says(textIn(element)))
  let from = 0
  for (const key of before) if (isFixed(beside[from], key)) from++
  let to = beside.length
  for (const key of [...after].reverse()) if (to > from && isFixed(beside[to - 1], key)) to--
  return {
    start: from > 0 ? beside[from - 1]!.sourceCodeLocation!.endOffset : inside.start,
    end: to < beside.length ? beside[to]!.sourceCodeLocation!.startOffset : inside.end,
  }
}
