import { type HtmlElement, type HtmlNode, Lines, parseHtml, walkHtml } from '#core/markup'
import type { Site, TextOf } from '#core/site'
import { type Origin, pieceAt } from '#core/template'
import type { PageTrace } from '../build'
import {
  commentPurpose,
  doctypePurpose,
  oldDoctypePurpose,
  elementPurposes,
  emptyPurpose,
  type Purpose,
  sharperPurposes,
  textPurpose,
  unknownPurpose,
} from './purposes'

/** Where something in a finished page came from: what wrote it, and the line of the template it stands at. */
export interface LineOrigin {
  readonly kind: Origin['kind']
  /** Of a value its name, of a slot its name, of a generated part its element; '' of the template itself. */
  readonly name: string
  readonly templateId: string | null
  /** 1-based, in that template's own source. */
  readonly line: number
  /** Of a slot: the line of what the page holds in it. */
  readonly slotLine?: number
}

/** What one line of a finished page is for. */
export interface LinePurpose {
  readonly words: string
  /** The section of the HTML Standard. */
  readonly section: string
  /** What is meant, as it is written: `<title>`, `</main>`, `<!DOCTYPE>`; '' for text alone. */
  readonly what: string
}

/** Where a line stands in a text, without its line break; null where there is no such line. */
function rangeOf(text: string, line: number): { readonly start: number; readonly end: number } | null {
  if (!(line >= 1)) return null
  let start = 0
  for (let at = 1; at < line; at++) {
    start = text.indexOf('\n', start) + 1
    if (start === 0) return null
  }
  const end = text.indexOf('\n', start)
  // A text ends with a line break, after which nothing stands.
  if (end < 0 && start === text.length) return null
  return { start, end: end < 0 ? text.length : end }
}

/** What wrote a line of a finished page: each once, in order; null where there is no such line. */
export function originsOfLine(
  { text, trace, composed }: PageTrace,
  line: number,
  site: Site,
  textOf: TextOf,
): LineOrigin[] | null {
  const range = rangeOf(text, line)
  if (!range) return null
  const { start, end } = range
  const origins: LineOrigin[] = []
  let from = 0
  for (const { end: to, origin } of trace) {
    const [first, last] = [Math.max(from, start), Math.min(to, end)]
    const shown = first + (text.slice(first, last).length - text.slice(first, last).trimStart().length)
    if (first < last && shown < last) {
      // What the template wrote stands where the letter stands; all else stands where its tag does.
      const place = origin.at + (origin.kind === 'template' ? shown - from : 0)
      const piece = composed?.pieces[pieceAt(composed.pieces, place)]
      const source = site.templates.find((one) => one.id === piece?.templateId)?.source
      const at: LineOrigin = {
        kind: origin.kind,
        name: 'name' in origin ? origin.name : '',
        ...(origin.kind === 'slot' && { slotLine: 1 + origin.lines + breaksBetween(text, from, first) }),
        templateId: piece?.templateId ?? null,
        line:
          piece && source !== undefined
            ? new Lines(textOf(source)).placeOf(piece.offset + (place - piece.start)).line
            : 1,
      }
      if (!origins.some((one) => one.kind === at.kind && one.name === at.name && one.line === at.line))
        origins.push(at)
    }
    from = to
    if (from >= end) break
  }
  return origins
}

/** What a line of a finished page is for; null where there is no such line. */
export function purposeOfLine(text: string, line: number): LinePurpose | null {
  const range = rangeOf(text, line)
  if (!range) return null
  const { purpose, what } = purposeIn(text, range.start, range.end)
  return { ...purpose, what }
}

const breaksBetween = (text: string, from: number, to: number): number => {
  let count = 0
  for (let at = text.indexOf('\n', from); at >= 0 && at < to; at = text.indexOf('\n', at + 1)) count++
  return count
}

/** An element of a page, counted among those of its name from the top. */
export interface ElementPlace {
  readonly tag: string
  readonly nth: number
}

/** A place of a page as somebody saw it: an element, and how what it says begins. */
export interface QuotedElement extends ElementPlace {
  readonly quote?: string
}

/** Letters that are compared: how something begins says which it is. */
const mostQuoted = 60
const plain = (text: string): string => text.trim().replace(/\s+/g, ' ').slice(0, mostQuoted)

/** How what an element says begins; of a picture, what stands in its place. */
function sayingOf(element: HtmlElement): string {
  let said = ''
  const left: HtmlNode[] = [element]
  while (left.length > 0 && said.length < 4 * mostQuoted) {
    const node = left.pop()!
    if ('value' in node && node.nodeName === '#text') said += node.value
    if ('childNodes' in node) left.push(...node.childNodes.slice(0, 4 * mostQuoted).reverse())
  }
  return plain(said || (element.attrs.find(({ name }) => name === 'alt')?.value ?? ''))
}

/**
 * Where an element that somebody saw stands now: where it was, if it still says the same, else the first of its name that
 * does, else where it was.
 */
export function findQuoted(text: string, { tag, nth, quote = '' }: QuotedElement): ElementPlace {
  const wanted = plain(quote)
  if (wanted === '') return { tag, nth }
  let count = -1
  let found: number | null = null
  walkHtml(parseHtml(text, true).root, (node) => {
    if (!('tagName' in node) || node.tagName !== tag) return
    count += 1
    if ((found === null || count === nth) && sayingOf(node) === wanted) found = count
  })
  return { tag, nth: found ?? nth }
}

/** The line on which an element of a finished page begins; null where it is not written there. */
export function lineOfElement(text: string, { tag, nth }: ElementPlace): number | null {
  let count = -1
  let offset: number | null = null
  walkHtml(parseHtml(text, true).root, (node) => {
    if (!('tagName' in node) || node.tagName !== tag) return
    count += 1
    if (count === nth) offset = node.sourceCodeLocation?.startOffset ?? null
  })
  return offset === null ? null : new Lines(text).placeOf(offset).line
}

/** The element that stands at a line of a finished page: the last one to begin on it or before it. */
export function elementAtLine(text: string, line: number): ElementPlace | null {
  const counts = new Map<string, number>()
  const lines = new Lines(text)
  let found: ElementPlace | null = null
  walkHtml(parseHtml(text, true).root, (node) => {
    if (!('tagName' in node)) return
    const nth = counts.get(node.tagName) ?? 0
    counts.set(node.tagName, nth + 1)
    const start = node.sourceCodeLocation?.startOffset
    if (start !== undefined && lines.placeOf(start).line <= line) found = { tag: node.tagName, nth }
  })
  return found
}

/** Where the lines of a slot stand in a finished page: what to add to one to have the other; null where it is not. */
export function slotOffset({ trace, text }: PageTrace, name: string): number | null {
  let from = 0
  for (const { end, origin } of trace) {
    if (origin.kind === 'slot' && origin.name === name) return breaksBetween(text, 0, from) - origin.lines
    from = end
  }
  return null
}

/** What the first thing that begins on a line is for, else what ends there, else that it is text. */
function purposeIn(text: string, start: number, end: number): { purpose: Purpose; what: string } {
  if (text.slice(start, end).trim() === '') return { purpose: emptyPurpose, what: '' }
  const first = start + (text.slice(start, end).length - text.slice(start, end).trimStart().length)
  const { root } = parseHtml(text, true)
  let begins: HtmlNode | null = null
  let ends: HtmlElement | null = null
  walkHtml(root, (node) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where) return
    if (node.nodeName !== '#text' && where.startOffset >= first && where.startOffset < end) begins ??= node
    if ('tagName' in node && node.sourceCodeLocation?.endTag?.startOffset === first) ends = node
  })
  const begun = begins as HtmlNode | null
  const ended = ends as HtmlElement | null
  // A line that ends something and begins nothing before it.
  if (ended) {
    const opened = new Lines(text).placeOf(ended.sourceCodeLocation!.startOffset).line
    const { section } = purposeOf(ended)
    const words = `Ends what began on line ${opened}.`
    return { purpose: { words, section }, what: `</${ended.tagName}>` }
  }
  if (!begun) return { purpose: textPurpose, what: '' }
  if (begun.nodeName === '#documentType') {
    const isOld = 'mode' in root && root.mode === 'quirks'
    return { purpose: isOld ? oldDoctypePurpose : doctypePurpose, what: '<!DOCTYPE>' }
  }
  if (begun.nodeName === '#comment') return { purpose: commentPurpose, what: '<!-- -->' }
  return 'tagName' in begun
    ? { purpose: purposeOf(begun), what: `<${begun.tagName}>` }
    : { purpose: textPurpose, what: '' }
}

function purposeOf({ tagName, attrs }: HtmlElement): Purpose {
  for (const { name, value } of attrs) {
    const classes = name === 'class' ? value.split(/\s+/).map((one) => `${tagName} .${one}`) : []
    for (const key of [`${tagName} ${name}=${value.toLowerCase()}`, `${tagName} ${name}`, ...classes])
      if (Object.hasOwn(sharperPurposes, key)) return sharperPurposes[key]!
  }
  return Object.hasOwn(elementPurposes, tagName) ? elementPurposes[tagName]! : unknownPurpose
}
