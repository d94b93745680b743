import {
  applyEdits,
  fixedIn,
  type HtmlElement,
  type HtmlNode,
  indentEdits,
  indentUnit,
  isElement,
  leadAt,
  parseHtml,
  type Range,
  walkHtml,
} from '#core/markup'
import { isOfFlow, takes } from './content-models'

/** A piece of HTML as it goes into a text. */
export interface Fitted extends Range {
  /** What stands between `start` and `end` then. */
  readonly text: string
  /** Where its author goes on: an offset into `text`. */
  readonly cursor: number
}

/** Where what an element holds begins and ends; null for one that nobody wrote. */
export function insideOf({ sourceCodeLocation: place }: HtmlElement): Range | null {
  if (!place?.startTag) return null
  return { start: place.startTag.endOffset, end: place.endTag?.startOffset ?? place.endOffset }
}

export const childrenOf = (node: HtmlNode): readonly HtmlNode[] =>
  'content' in node ? node.content.childNodes : 'childNodes' in node ? node.childNodes : []

/** What a stretch of a text stands in. */
interface Standing {
  /** From the outermost to the innermost. */
  readonly open: readonly HtmlElement[]
  /** Where the tag or the comment ends that it stands within; null beside them. */
  readonly tagEnd: number | null
}

type Span = { readonly startOffset: number; readonly endOffset: number }

/** Finds what a stretch, or a place in a text, stands in, a level at a time. */
export function standingAt(root: HtmlNode, start: number, end: number): Standing {
  const open: HtmlElement[] = []
  const within = (span: Span | undefined) => span && span.startOffset < start && end < span.endOffset
  let left = [...childrenOf(root)].reverse()
  for (let node = left.pop(); node; node = left.pop()) {
    if (!isElement(node)) {
      const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
      if (place && node.nodeName !== '#text' && within(place)) return { open, tagEnd: place.endOffset }
      continue
    }
    const { sourceCodeLocation: place } = node
    const inside = insideOf(node)
    if (inside && inside.start <= start && end <= inside.end && !isVoid(node)) {
      open.push(node)
      left = [...childrenOf(node)].reverse()
    } else if (place?.startTag) {
      const tag = [place.startTag, place.endTag].find(within)
      if (tag) return { open, tagEnd: tag.endOffset }
    } else if (!place) {
      // What the parser adds, such as a `tbody`, stands nowhere: what is in it does.
      const children = childrenOf(node)
      for (let last = children.length - 1; last >= 0; last--) left.push(children[last]!)
    }
  }
  return { open, tagEnd: null }
}

/** Whether nothing can stand in an element, since it has no end (HTML §13.1.2). */
const isVoid = ({ sourceCodeLocation: place }: HtmlElement): boolean =>
  !!place?.startTag && !place.endTag && place.endOffset === place.startTag.endOffset

/** A piece of HTML, by what stands in it side by side. */
interface Piece {
  readonly text: string
  /** Whether all of it may stand in a paragraph. */
  readonly isPhrasing: boolean
  readonly hasLink: boolean
  readonly hasWords: boolean
  /** Its one element, where it is nothing else. */
  readonly only: HtmlElement | null
}

function readPiece(html: string): Piece {
  const text = html.trim()
  const nodes = childrenOf(parseHtml(text, false).root)
  let hasLink = false
  let hasWords = false
  for (const node of nodes)
    walkHtml(node, (one) => {
      hasLink ||= isElement(one) && one.tagName === 'a'
      hasWords ||= one.nodeName === '#text' && 'value' in one && one.value.trim() !== ''
    })
  const told = nodes.filter((node) => !('value' in node && node.value.trim() === ''))
  const [first] = told
  return {
    text,
    isPhrasing: !nodes.some(isOfFlow),
    hasLink,
    hasWords,
    only: told.length === 1 && first && isElement(first) ? first : null,
  }
}

/** What an element of a text holds, without blanks around it. */
function innerText(text: string, element: HtmlElement): string {
  const inside = insideOf(element)
  return inside ? text.slice(inside.start, inside.end).trim() : ''
}

const holdsWords: ReadonlySet<string> = new Set(['li', 'dt', 'dd', 'td', 'th', 'figcaption', 'caption'])
const isHeading = ({ tagName }: HtmlElement) => /^h[1-6]$/.test(tagName)

/**
 * Fits a piece of HTML into a text where it can stand by the content models of HTML §4, as near as may be to where it was
 * wanted: words of one paragraph go into the one that is there; paragraphs, lists and the like beside it, or between its halves;
 * entries of a list into a list. What stands beside others gets lines of its own, indented as those are.
 * @param where what is replaced; within a tag or a comment, the end of that counts
 */
export function fitInto(text: string, { start, end }: Range, html: string): Fitted {
  if (start === end) return fitAt(text, start, html)
  // What is replaced is gone before it is asked where the piece can stand.
  const left = text.slice(0, start) + text.slice(end)
  const fitted = fitAt(left, start, html)
  const first = Math.min(fitted.start, start)
  const last = Math.max(fitted.end, start)
  const before = left.slice(first, fitted.start)
  return {
    start: first,
    end: last + (end - start),
    text: before + fitted.text + left.slice(fitted.end, last),
    cursor: before.length + fitted.cursor,
  }
}

function fitAt(text: string, place: number, html: string): Fitted {
  const piece = readPiece(html)
  const { root } = parseHtml(text, false)
  let at = place
  let standing = standingAt(root, at, at)
  if (standing.tagEnd !== null) {
    at = standing.tagEnd
    standing = standingAt(root, at, at)
  }
  // A link holds no other (HTML §4.5.1).
  const link = piece.hasLink && standing.open.find(({ tagName }) => tagName === 'a')
  if (link) {
    at = link.sourceCodeLocation!.endOffset
    standing = standingAt(root, at, at)
  }
  const { open } = standing
  const shut = open.find((element) => takes(element) === 'nothing')
  if (shut) return fitBeside(text, root, shut, 'after', html)
  const inner = open[open.length - 1]
  if (inner && takes(inner) === 'entries') return asEntry(text, root, at, open, piece, html)
  if (piece.isPhrasing && piece.hasWords && isBetweenBlocks(text, at, inner ?? root))
    return withinEnd(onLines(text, { start: at, end: at }, inner ?? null, `<p>${piece.text}</p>`))
  if (piece.isPhrasing) return asItIs(at, piece.text)
  // The outermost of those that take words alone.
  let outer = open.length
  while (outer > 0 && takes(open[outer - 1]!) === 'phrasing') outer--
  const holder = open[outer]
  if (!holder) {
    // Such as an entry of a list hold one paragraph's words without one, as long as they hold nothing else.
    const isWordy = inner && holdsWords.has(inner.tagName) && !childrenOf(inner).some(isOfFlow)
    return isWordy && piece.only?.tagName === 'p'
      ? words(at, piece)
      : onLines(text, { start: at, end: at }, inner ?? null, piece.text)
  }
  const inside = insideOf(holder)!
  const before = text.slice(inside.start, at)
  const after = text.slice(at, inside.end)
  // A heading stays the heading that it is, and a paragraph its own.
  if (piece.only && (piece.only.tagName === 'p' || (isHeading(holder) && isHeading(piece.only))))
    return words(at, piece)
  if (before.trim() === '' && after.trim() === '') {
    const { startOffset: start, endOffset: end } = holder.sourceCodeLocation!
    if (holder.tagName === 'p' && holder.attrs.length === 0)
      return onLines(text, { start, end }, open[outer - 1] ?? null, piece.text)
  }
  if (isBlank(before)) return fitBeside(text, root, holder, 'before', html)
  if (isBlank(after)) return fitBeside(text, root, holder, 'after', html)
  if (holder.tagName === 'p' && holder === inner) return between(text, at, holder, piece.text)
  return fitBeside(text, root, holder, 'after', html)
}

/** Whether a place is on an empty line beside blocks, where words are a paragraph of their own; not beside words that have none. */
function isBetweenBlocks(text: string, at: number, around: HtmlNode): boolean {
  const before = text.slice(text.lastIndexOf('\n', at - 1) + 1, at)
  const end = text.indexOf('\n', at)
  if (before.trim() !== '' || text.slice(at, end < 0 ? text.length : end).trim() !== '') return false
  if (isElement(around) && (takes(around) !== 'flow' || holdsWords.has(around.tagName))) return false
  const beside: (HtmlNode | undefined)[] = [undefined, undefined]
  for (const node of childrenOf(around)) {
    const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!place || node.nodeName === '#comment') continue
    if (node.nodeName === '#text' && 'value' in node && node.value.trim() === '') continue
    if (place.endOffset <= at) beside[0] = node
    else beside[1] ??= node
  }
  const found = beside.filter((node) => node !== undefined)
  return found.length > 0 && found.every(isOfFlow)
}

/** Whether HTML is read as such at a place of a text: not within a tag or a comment, nor where lines of source stand. */
export function readsHtmlAt(text: string, place: number): boolean {
  const { open, tagEnd } = standingAt(parseHtml(text, false).root, place, place)
  return tagEnd === null && !open.some((element) => element.tagName === 'pre' || takes(element) === 'nothing')
}

/** Whether nothing is shown of a stretch: blanks, and tags of words that are left open. */
const isBlank = (html: string): boolean => html.replace(/<\/?[a-z][^<>]*>/gi, (tag) => (/^<(?:img|br|input)\b/i.test(tag) ? 'x' : '')).trim() === '' // prettier-ignore

const asItIs = (at: number, text: string): Fitted => ({ start: at, end: at, text, cursor: text.length })
/** Goes on in the paragraph that it is. */
const withinEnd = (fitted: Fitted): Fitted => ({ ...fitted, cursor: fitted.cursor - '</p>'.length })
const words = (at: number, { text, only }: Piece): Fitted => asItIs(at, innerText(text, only!))

/** In an element that holds entries: as some of a list, else beside it. */
function asEntry(
  text: string,
  root: HtmlNode,
  at: number,
  open: readonly HtmlElement[],
  { text: piece, only }: Piece,
  html: string,
): Fitted {
  const list = open[open.length - 1]!
  if (list.tagName === 'ul' || list.tagName === 'ol') {
    if (only?.tagName === 'ul' || only?.tagName === 'ol')
      return onLines(text, { start: at, end: at }, list, unindented(innerText(piece, only)))
    if (only?.tagName === 'li') return onLines(text, { start: at, end: at }, list, piece)
    const inside = only?.tagName === 'p' ? innerText(piece, only) : piece
    return onLines(text, { start: at, end: at }, list, inside.includes('\n') ? `<li>\n${indented(inside, '  ')}\n</li>` : `<li>${inside}</li>`) // prettier-ignore
  }
  let outer = open.length - 1
  while (outer > 0 && takes(open[outer - 1]!) === 'entries') outer--
  return fitBeside(text, root, open[outer]!, 'after', html)
}

/** In front of an element or behind it, as if it had been wanted there. */
function fitBeside(
  text: string,
  root: HtmlNode,
  element: HtmlElement,
  side: 'before' | 'after',
  html: string,
): Fitted {
  const { startOffset, endOffset, endTag } = element.sourceCodeLocation!
  // One that is not closed ends with the blanks before what ended it.
  const end = endTag ? endOffset : text.slice(0, endOffset).trimEnd().length
  const place = side === 'before' ? startOffset : end
  const { open } = standingAt(root, startOffset, endOffset)
  const around = open.filter((one) => one !== element)
  return onLines(text, { start: place, end: place }, around[around.length - 1] ?? null, html.trim())
}

/** Between the halves of a paragraph, which become two. */
function between(text: string, at: number, holder: HtmlElement, piece: string): Fitted {
  const { startTag, endTag, startOffset } = holder.sourceCodeLocation!
  const lead = leadAt(text, startOffset)
  const start = text.slice(0, at).trimEnd().length
  const rest = text.slice(at)
  const end = at + (rest.length - rest.trimStart().length)
  // An id is one element's.
  const id = holder.attrs.find(({ name }) => name === 'id')?.at
  const tag = text.slice(startTag!.startOffset, startTag!.endOffset)
  const from = startTag!.startOffset
  const again = id ? `${tag.slice(0, id.startOffset - from).trimEnd()}${tag.slice(id.endOffset - from)}` : tag
  const first = `${endTag ? '</p>' : ''}\n${indented(piece, lead)}`
  return { start, end, text: `${first}\n${lead}${again}`, cursor: first.length }
}

/** Text whose lines all begin with `lead`, but where white space counts. */
function indented(text: string, lead: string): string {
  if (lead === '') return text
  const whole = { start: 0, end: text.length }
  return (
    lead +
    applyEdits(
      text,
      indentEdits(text, whole, fixedIn(text), (was) => lead + was),
    )
  )
}

/** Text with as much less in front of its lines as its second line has, which the first has not. */
function unindented(text: string): string {
  const more = /\n([ \t]*)\S/.exec(text)?.[1] ?? ''
  const whole = { start: 0, end: text.length }
  const edits = indentEdits(text, whole, fixedIn(text), (was) => (was.startsWith(more) ? was.slice(more.length) : was)) // prettier-ignore
  return applyEdits(text, edits)
}

/** On lines of its own, indented as what stands around it. */
function onLines(text: string, { start, end }: Range, around: HtmlElement | null, piece: string): Fitted {
  const lineStart = text.lastIndexOf('\n', start - 1) + 1
  const lineEnd = text.indexOf('\n', end) < 0 ? text.length : text.indexOf('\n', end)
  const before = text.slice(lineStart, start)
  const after = text.slice(end, lineEnd)
  const inside = around && insideOf(around)
  // On the line that the tag stands on which it is in, it goes one level in.
  const opens = inside !== null && inside.start >= lineStart
  const lead = leadAt(text, start)
  const own = opens ? lead + indentUnit(text, fixedIn(text)) : lead
  const closes = inside !== null && text.slice(end, inside.end).trim() === ''
  const lines = indented(piece, own)
  const made = before.trim() === '' ? lines.slice(own.length) : `\n${lines}`
  const back = closes && opens ? lead : own
  return {
    start: before.trim() === '' ? start : start - (before.length - before.trimEnd().length),
    end: after.trim() === '' ? end : end + (after.length - after.trimStart().length),
    text: made + (after.trim() === '' ? '' : `\n${back}`),
    cursor: made.length,
  }
}
