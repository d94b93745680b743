import {
  fixedIn,
  type HtmlElement,
  type HtmlNode,
  indentEdits,
  indentUnit,
  isElement,
  leadAt,
  parseHtml,
  type Range,
  type TextEdit,
  walkHtml,
} from '#core/markup'
import { isOfFlow, takes } from './content-models'
import { childrenOf, fitInto, insideOf, standingAt } from './fit-into'

/** Elements of words (HTML §4.5), and of what stands on lines of its own (§4.3.6, §4.4). */
export const wordElements = ['em', 'strong', 'code'] as const
export const lineElements = ['p', 'h2', 'h3', 'h4', 'ul', 'ol', 'blockquote'] as const
export type WordElement = (typeof wordElements)[number]
export type LineElement = (typeof lineElements)[number]

/** What is done to a text, and what is chosen in it then. */
export interface ElementEdits {
  /** In order; they do not overlap. */
  readonly edits: readonly TextEdit[]
  readonly chosen: Range
}

/**
 * Puts a stretch of a text into an element, or takes it out of that where it is in one already: words into an element of words,
 * paragraphs and headings into another kind of them, paragraphs or lines into a list or a quotation. Nothing chosen is the word,
 * or the paragraph, that the place is in; where there is none, an empty element is made to write in. What comes out keeps to the
 * content models of HTML §4; null where the element cannot stand.
 */
export function elementAround(
  text: string,
  within: Range,
  name: WordElement | LineElement,
): ElementEdits | null {
  const { root } = parseHtml(text, false)
  const range = { start: ofReference(text, within.start).start, end: ofReference(text, within.end).end }
  const { open, tagEnd } = standingAt(root, range.start, range.end)
  if (isInTag(text, range.start) || isInTag(text, range.end)) return null
  if (tagEnd !== null || open.some((element) => element.tagName === 'pre' || takes(element) === 'nothing'))
    return null
  return isWordElement(name)
    ? aroundWords(text, root, range, name)
    : name === 'ul' || name === 'ol' || name === 'blockquote'
      ? aroundBlocks(text, root, range, name)
      : asKind(text, root, range, name)
}

const isWordElement = (name: string): name is WordElement =>
  (wordElements as readonly string[]).includes(name)

/** A place, or the character reference that it is within (HTML §13.5). */
function ofReference(text: string, place: number): Range {
  const from = Math.max(0, place - longestReference)
  const begun = /&#?\w*$/.exec(text.slice(from, place))
  const rest = /^#?\w*;/.exec(text.slice(place, place + longestReference))
  return begun && rest
    ? { start: from + begun.index, end: place + rest[0].length }
    : { start: place, end: place }
}
const longestReference = 32

/** Whether a place is in a tag, also in one that closes nothing and so stands nowhere. */
function isInTag(text: string, place: number): boolean {
  if (place === 0) return false
  const begun = text.lastIndexOf('<', place - 1)
  return begun > text.lastIndexOf('>', place - 1) && /[a-z/!?]/i.test(text.charAt(begun + 1))
}

/** A stretch without the blanks at its ends. */
function trimmed(text: string, { start, end }: Range): Range {
  const piece = text.slice(start, end)
  const first = start + (piece.length - piece.trimStart().length)
  return { start: Math.min(first, end), end: Math.max(first, start + piece.trimEnd().length) }
}

/** Where a stretch stands once edits are made: behind what is opened at its ends, and before what is closed there. */
function after(edits: readonly TextEdit[], { start, end }: Range): Range {
  const closes = ({ text }: TextEdit) => text.trimStart().startsWith('</')
  const moved = (place: number) =>
    edits.reduce((at, edit) => {
      const isBefore = edit.end < place || (edit.end === place && (edit.start < edit.end || !closes(edit)))
      return isBefore ? at + edit.text.length - (edit.end - edit.start) : at
    }, place)
  return { start: moved(start), end: moved(end) }
}

// ── Words ──

const wordBefore = /[\p{L}\p{M}\p{N}’'-]*$/u
const wordBehind = /^[\p{L}\p{M}\p{N}’'-]*/u
/** Letters that are looked at for the word at a place. */
const longestWord = 200

function wordAt(text: string, place: number): Range {
  const before = wordBefore.exec(text.slice(Math.max(0, place - longestWord), place))![0]
  const behind = wordBehind.exec(text.slice(place, place + longestWord))![0]
  return { start: place - before.length, end: place + behind.length }
}

function aroundWords(text: string, root: HtmlNode, range: Range, name: WordElement): ElementEdits | null {
  const isPlace = range.start === range.end
  const { start, end } = isPlace ? wordAt(text, range.start) : trimmed(text, range)
  if (start === end) return hollow(text, range, `<${name}>x</${name}>`)
  const { open } = standingAt(root, start, end)
  const around = open.findLast((element) => element.tagName === name) ?? wholeOf(root, open, start, end, name)
  if (around) {
    const { startTag, endTag } = around.sourceCodeLocation!
    const edits = [startTag, endTag].flatMap((tag) =>
      tag ? [{ start: tag.startOffset, end: tag.endOffset, text: '' }] : [],
    )
    return { edits, chosen: after(edits, isPlace ? range : { start, end }) }
  }
  const stretches = stretchesOf(text, root, open, start, end, name)
  if (stretches.length === 0) return null
  const edits = stretches.flatMap((stretch) => [
    { start: stretch.start, end: stretch.start, text: `<${name}>` },
    { start: stretch.end, end: stretch.end, text: `</${name}>` },
  ])
  return { edits, chosen: after(edits, isPlace ? range : { start: stretches[0]!.start, end }) }
}

/** The element that a stretch is all of. */
const wholeOf = (root: HtmlNode, open: readonly HtmlElement[], start: number, end: number, name: string) =>
  childrenOf(open[open.length - 1] ?? root)
    .filter(isElement)
    .find(
      ({ tagName, sourceCodeLocation: place }) =>
        tagName === name && place?.startOffset === start && place.endOffset === end,
    )

/** What of a stretch words stand in, side by side: all of it where it is of one paragraph, else the words of each. */
function stretchesOf(
  text: string,
  root: HtmlNode,
  open: readonly HtmlElement[],
  start: number,
  end: number,
  name: string,
): Range[] {
  const inner = open[open.length - 1] ?? root
  const isWhole = childrenOf(inner).every((node) => {
    const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!place || place.endOffset <= start || place.startOffset >= end) return true
    if (node.nodeName === '#text') return true
    return place.startOffset >= start && place.endOffset <= end && isElement(node) && !hasFlow(node)
  })
  if (isWhole && !(isElement(inner) && takes(inner) === 'entries')) return [{ start, end }]
  const found: Range[] = []
  const todo: { node: HtmlNode; isFit: boolean }[] = [{ node: root, isFit: true }]
  for (let next = todo.pop(); next; next = todo.pop()) {
    const { node, isFit } = next
    if (isElement(node) && (node.tagName === name || node.tagName === 'pre' || takes(node) === 'nothing'))
      continue
    if (node.nodeName === '#text' && isFit) {
      const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
      if (!place) continue
      const part = { start: Math.max(start, place.startOffset), end: Math.min(end, place.endOffset) }
      if (part.start < part.end) {
        const words = trimmed(text, part)
        if (words.start < words.end) found.push(words)
      }
      continue
    }
    const takesWords = !isElement(node) || takes(node) !== 'entries'
    for (const child of childrenOf(node).toReversed()) todo.push({ node: child, isFit: takesWords })
  }
  return found
}

function hasFlow(element: HtmlElement): boolean {
  let has = false
  walkHtml(element, (node) => (has ||= isOfFlow(node)))
  return has
}

// ── Lines ──

const isBlock = ({ tagName }: HtmlElement) => /^(?:p|h[1-6])$/.test(tagName)

/** Where elements of a text stand; one without an end tag ends before the blanks that follow, which several may share. */
function placesOf(text: string): (element: HtmlElement) => Range {
  const ends = new Map<number, number>()
  return (element) => {
    const { startOffset: start, endOffset, endTag } = element.sourceCodeLocation!
    if (endTag) return { start, end: endOffset }
    let end = ends.get(endOffset)
    if (end === undefined) ends.set(endOffset, (end = text.slice(0, endOffset).trimEnd().length))
    return { start, end: Math.max(start, end) }
  }
}

/** Elements that a stretch is in or reaches into, of those that somebody wrote. */
function reached(text: string, root: HtmlNode, { start, end }: Range, is: (element: HtmlElement) => boolean) {
  const found: HtmlElement[] = []
  const placeOf = placesOf(text)
  walkHtml(root, (node) => {
    if (!isElement(node) || !node.sourceCodeLocation?.startTag || !is(node)) return
    const place = placeOf(node)
    const isReached =
      start === end ? place.start <= start && place.end >= start : place.start < end && place.end > start
    if (isReached) found.push(node)
  })
  return found
}

/** Edits that call an element otherwise; one that is not closed is, where it ends. */
function renamed(element: HtmlElement, { end }: Range, name: string): TextEdit[] {
  const { startTag, endTag } = element.sourceCodeLocation!
  const from = startTag!.startOffset + 1
  return [
    { start: from, end: from + element.tagName.length, text: name },
    endTag
      ? { start: endTag.startOffset + 2, end: endTag.startOffset + 2 + element.tagName.length, text: name }
      : { start: end, end, text: `</${name}>` },
  ]
}

/** Makes paragraphs and headings of another kind; those that are of it already, paragraphs. */
function asKind(
  text: string,
  root: HtmlNode,
  range: Range,
  name: 'p' | 'h2' | 'h3' | 'h4',
): ElementEdits | null {
  const blocks = reached(text, root, range, isBlock)
  const placeOf = placesOf(text)
  if (blocks.length === 0) return fromLines(text, root, range, (lines) => lines.map((line) => `<${name}>${line}</${name}>`).join('\n')) // prettier-ignore
  const to = blocks.every(({ tagName }) => tagName === name) ? 'p' : name
  const edits = blocks
    .filter(({ tagName }) => tagName !== to)
    .flatMap((block) => renamed(block, placeOf(block), to))
  return { edits, chosen: after(edits, range) }
}

/** Puts what stands side by side into a list or a quotation; a list of the other kind becomes this one. */
function aroundBlocks(
  text: string,
  root: HtmlNode,
  range: Range,
  name: 'ul' | 'ol' | 'blockquote',
): ElementEdits | null {
  const isList = name !== 'blockquote'
  const placeOf = placesOf(text)
  const { open } = standingAt(root, range.start, range.end)
  const list = isList ? open.findLast(({ tagName }) => tagName === 'ul' || tagName === 'ol') : undefined
  if (list) {
    const edits = list.tagName === name ? [] : renamed(list, placeOf(list), name)
    return { edits, chosen: after(edits, range) }
  }
  const blocks = reached(text, root, range, isBlock)
  if (blocks.length === 0)
    return fromLines(text, root, range, (lines) => {
      const inside = isList ? 'li' : 'p'
      return `<${name}>\n${lines.map((line) => `  <${inside}>${line}</${inside}>`).join('\n')}\n</${name}>`
    })
  const start = placeOf(blocks[0]!).start
  const end = placeOf(blocks[blocks.length - 1]!).end
  // Only what stands side by side, and nothing else among it.
  const around = standingAt(root, start, end).open
  const parent = around[around.length - 1] ?? root
  const among = childrenOf(parent).filter((node) => {
    const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    const isText = node.nodeName === '#text' && 'value' in node && node.value.trim() === ''
    return place && !isText && place.startOffset < end && place.endOffset > start
  })
  const wanted: ReadonlySet<HtmlNode> = new Set(blocks)
  if (among.length !== blocks.length || among.some((node) => !wanted.has(node))) return null
  const lead = leadAt(text, start)
  const unit = indentUnit(text, fixedIn(text))
  const inner = isList ? blocks.flatMap((block) => renamed(block, placeOf(block), 'li')) : []
  const lines = indentEdits(text, { start, end }, fixedIn(text), (was) => was + unit).filter(
    (edit) => edit.start > start,
  )
  const edits = [
    { start, end: start, text: `<${name}>\n${lead}${unit}` },
    ...[...inner, ...lines].sort((a, b) => a.start - b.start),
    { start: end, end, text: `\n${lead}</${name}>` },
  ]
  return { edits, chosen: after(edits, range) }
}

/** Makes elements of lines that are in none; of an empty one, what is to be written in. */
function fromLines(
  text: string,
  root: HtmlNode,
  { start, end }: Range,
  make: (lines: readonly string[]) => string,
): ElementEdits | null {
  const { open } = standingAt(root, start, end)
  const holder = open.findLast((element) => takes(element) !== 'phrasing')
  const inside = (holder && insideOf(holder)) ?? { start: 0, end: text.length }
  const next = text.indexOf('\n', end)
  const range = trimmed(text, {
    start: Math.max(inside.start, text.lastIndexOf('\n', start - 1) + 1),
    end: Math.min(inside.end, next < 0 ? text.length : next),
  })
  const piece = text.slice(range.start, range.end)
  const nodes = childrenOf(parseHtml(piece, false).root)
  const { open: around, tagEnd } = standingAt(root, range.start, range.end)
  const isApart = around[around.length - 1] === holder && tagEnd === null
  if (!isApart || isInTag(text, range.start) || isInTag(text, range.end) || nodes.some(isOfFlow)) return null
  const lines = linesOf(piece, nodes)
  if (lines.length === 0) return hollow(text, range, make(['x']))
  const fitted = fitInto(text, range, make(lines))
  const place = fitted.start + fitted.cursor
  return { edits: [fitted], chosen: { start: place, end: place } }
}

/** Lines of a piece of HTML, each whole: one ends between elements, and not in one. */
function linesOf(piece: string, nodes: readonly HtmlNode[]): string[] {
  const lines: string[] = []
  let begun = 0
  for (const node of nodes) {
    const place = node.nodeName === '#text' && 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!place) continue
    const words = piece.slice(place.startOffset, place.endOffset)
    for (let at = words.indexOf('\n'); at >= 0; at = words.indexOf('\n', at + 1)) {
      lines.push(piece.slice(begun, place.startOffset + at))
      begun = place.startOffset + at + 1
    }
  }
  return [...lines, piece.slice(begun)].map((line) => line.trim()).filter((line) => line !== '')
}

/** Puts in an element that holds one letter, without it: its author goes on there. Null where the element itself cannot stand. */
function hollow(text: string, range: Range, html: string): ElementEdits | null {
  const holder = /<([a-z0-9]+)>x<\/\1>/.exec(html)![0]
  const fitted = fitInto(text, range, html)
  const found = fitted.text.indexOf(holder)
  if (found < 0) return null
  const inside = found + holder.indexOf('>x') + 1
  const { start, end } = fitted
  const edit = { start, end, text: fitted.text.slice(0, inside) + fitted.text.slice(inside + 1) }
  return { edits: [edit], chosen: { start: start + inside, end: start + inside } }
}
