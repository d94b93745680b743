import { type DefaultTreeAdapterMap, parse, parseFragment, type ParserError, type Token } from 'parse5'
import { type AttributeText, readAttributeText } from './attribute-text'
import { findCssReferences, type Reference } from './css'
import type { Range } from './indent'
import { type LinePlace, Lines } from './lines'
import { type ElementNote, fillerIn, notesOf, wordsIn } from './notes'
import { srcsetUrls } from './srcset'
import { findTagFaults, type TagFault } from './tags'

export type HtmlElement = DefaultTreeAdapterMap['element']
export type HtmlNode = DefaultTreeAdapterMap['node']

/** A place where the text breaks the HTML syntax, with the standard's own name for the error. */
export interface MarkupError {
  /** Error code of HTML §13.2.2, such as `eof-in-tag`. */
  readonly code: string
  readonly line: number
  readonly column: number
  readonly start: number
  readonly end: number
  /** The line it stands in, as far as it is short. */
  readonly piece: string
}

/** A stretch of source told to a reader: the beginning of it, where it is long. */
export interface Pieced {
  readonly piece: string
}

/** A link with what it says. */
export interface ReadLink extends PlacedRange {
  readonly href: string
  /** Its words; the first letters of many. */
  readonly words: string
}

/** A picture with the size that is written for it, in CSS pixels. */
export interface ReadPicture extends PlacedRange {
  readonly src: string
  readonly width: number | null
  readonly height: number | null
}

export type PlacedReference = Reference & LinePlace
export type PlacedRange = Range & LinePlace

/** What one reading of a text yields. Depends on nothing but the text, so it may be kept by hash. */
export interface HtmlFacts {
  readonly references: readonly PlacedReference[]
  /** The first errors; a text that is no HTML at all has no end of them. */
  readonly errors: readonly MarkupError[]
  readonly errorCount: number
  /** Stretches of more than one line in which white space counts, sorted by where they start. */
  readonly fixed: readonly Range[]
  /** `base` elements that would lead every relative reference of the page elsewhere. */
  readonly bases: readonly PlacedRange[]
  /** Values of `id`, in order, repeated ones too. */
  readonly ids: readonly string[]
  readonly headings: readonly Heading[]
  /** Tags that do not match, in order. */
  readonly tags: readonly (TagFault & LinePlace & Pieced)[]
  /** What there is to say of its elements, in order; of very many, the first ones. */
  readonly notes: readonly (ElementNote & LinePlace & Pieced)[]
  /** The first of its links, in order. */
  readonly links: readonly ReadLink[]
  /** The first of its pictures, in order. */
  readonly pictures: readonly ReadPicture[]
  /** Words that are shown. */
  readonly wordCount: number
}

/** A heading, `h1` to `h6`, as a whole element. */
export interface Heading extends PlacedRange {
  readonly level: number
  /** What it says, its white space as it is shown; the first letters of a long one. */
  readonly text: string
  readonly id: string | null
  /** Where an `id` can be written into its start tag. */
  readonly idAt: number
}

/** Letters of a heading that are kept. */
const longestHeading = 200

/** Attributes that hold one URL (HTML "Attributes" index; SVG 2 §16.1 for `use` and `image`). */
const urlAttributes: Readonly<Record<string, readonly string[]>> = {
  a: ['href'], area: ['href'], link: ['href'], img: ['src'], source: ['src'], script: ['src'],
  iframe: ['src'], video: ['src', 'poster'], audio: ['src'], track: ['src'], embed: ['src'],
  object: ['data'], form: ['action'], input: ['src', 'formaction'], button: ['formaction'],
  blockquote: ['cite'], q: ['cite'], del: ['cite'], ins: ['cite'],
  use: ['href', 'xlink:href'], image: ['href', 'xlink:href'],
} // prettier-ignore
const srcsetAttributes: Readonly<Record<string, readonly string[]>> = {
  img: ['srcset'], source: ['srcset'], link: ['imagesrcset'],
} // prettier-ignore

/** Where an attribute's value stands in the source; null when it has none. */
export function attributeValueRange(
  html: string,
  where: Token.Location,
): { start: number; end: number; quoted: boolean } | null {
  const match = /^[^\s=/>]+\s*=\s*(["']?)/.exec(html.slice(where.startOffset, where.endOffset))
  if (!match) return null
  const quoted = match[1] !== ''
  const start = where.startOffset + match[0].length
  return { start, end: Math.max(start, where.endOffset - (quoted ? 1 : 0)), quoted }
}

/** Visits every node, template contents included, in document order. */
export function walkHtml(root: HtmlNode, visit: (node: HtmlNode) => void): void {
  const stack: HtmlNode[] = [root]
  while (stack.length > 0) {
    const node = stack.pop()!
    visit(node)
    const children = 'content' in node ? node.content.childNodes : 'childNodes' in node ? node.childNodes : []
    for (let at = children.length - 1; at >= 0; at--) stack.push(children[at]!)
  }
}

/** Errors told one by one; of more, the count tells. */
const mostErrors = 1_000

/** Parses a whole document or a fragment, with source locations and errors. */
export function parseHtml(
  html: string,
  whole: boolean,
): { root: HtmlNode; errors: MarkupError[]; errorCount: number } {
  const errors: MarkupError[] = []
  let errorCount = 0
  const options = {
    sourceCodeLocationInfo: true,
    onParseError: (error: ParserError) => {
      if (++errorCount > mostErrors) return
      errors.push({
        code: error.code,
        line: error.startLine,
        column: error.startCol,
        start: error.startOffset,
        end: error.endOffset,
        piece: lineAt(html, error.startOffset),
      })
    },
  }
  const root = whole ? parse(html, options) : parseFragment(html, options)
  return { root, errors, errorCount }
}

/** Letters of a piece of source that are told. */
const longestPiece = 120

const pieceOf = (html: string, start: number, end: number): string =>
  html.slice(start, Math.min(end, start + longestPiece)).replace(/\s+/g, ' ')

/** The line around a place, or what stands next to it where that is long. */
function lineAt(html: string, place: number): string {
  const from = Math.max(html.lastIndexOf('\n', place - 1) + 1, place - longestPiece / 2)
  const end = html.indexOf('\n', place)
  return html.slice(from, Math.min(end < 0 ? html.length : end, from + longestPiece)).trim()
}

/** A number of pixels as an attribute gives it (HTML §2.3.4.4); null for anything else. */
const pixels = (value: string | undefined): number | null => {
  const match = /^\s*(\d{1,6})(?:\.\d+)?(?:px)?\s*$/.exec(value ?? '')
  return match ? Number(match[1]) : null
}

function elementReferences(html: string, element: HtmlElement, found: Reference[]): void {
  const tag = element.tagName
  const urls = urlAttributes[tag] ?? []
  const sets = srcsetAttributes[tag] ?? []
  for (const attr of element.attrs) {
    const name = attr.prefix ? `${attr.prefix}:${attr.name}` : attr.name
    const isUrl = urls.includes(name)
    const isSet = sets.includes(name)
    if (!isUrl && !isSet && name !== 'style') continue
    const where = element.sourceCodeLocation?.attrs?.[name]
    const range = where && attributeValueRange(html, where)
    if (!range) continue
    const holder = `${tag} ${name}`
    const source = html.slice(range.start, range.end)
    const inAttribute = range.quoted ? 'quoted' : 'unquoted'
    const at = (found: AttributeText, start: number, end: number) => ({
      start: range.start + found.sourceAt(start),
      end: range.start + found.sourceAt(end),
    })
    if (isUrl) {
      const value = readAttributeText(source)
      const href = value.text.trim()
      const lead = value.text.length - value.text.trimStart().length
      found.push({
        ...at(value, lead, lead + href.length),
        href: attr.value.trim(),
        syntax: range.quoted ? 'attribute' : 'unquoted-attribute',
        holder,
      })
      continue
    }
    const value = readAttributeText(source)
    // Where the two readings differ (a line break of another kind), no place in it is sure.
    if (value.text !== attr.value) continue
    if (isSet)
      for (const { offset, url } of srcsetUrls(value.text))
        found.push({
          ...at(value, offset, offset + url.length),
          href: url,
          syntax: 'srcset',
          inAttribute,
          holder,
        })
    else
      for (const reference of findCssReferences(value.text, 'declarationList'))
        found.push({ ...reference, ...at(value, reference.start, reference.end), inAttribute, holder })
  }
}

/** Elements whose line breaks and spaces are part of what is shown or run. */
const verbatim = new Set(['pre', 'textarea', 'script', 'style', 'listing', 'xmp', 'plaintext'])

/** Where in an element white space counts: in what it shows as it is, and in its attributes. */
function fixedRanges(element: HtmlElement, lines: Lines): Range[] {
  const where = element.sourceCodeLocation
  if (!where) return []
  const ranges = Object.values(where.attrs ?? {}).map(({ startOffset, endOffset }) => {
    return { start: startOffset, end: endOffset }
  })
  if (verbatim.has(element.tagName)) {
    const start = where.startTag?.endOffset ?? where.startOffset
    ranges.push({ start, end: where.endTag?.startOffset ?? where.endOffset })
  }
  return ranges.filter(({ start, end }) => lines.hasBreak(start, end))
}

/** Notes that are told of one text, and links and pictures that are kept of it. */
const mostNotes = 1_000
const mostLinks = 2_000
/** Letters of a link that are kept. */
const longestLink = 80

/** Ids that labels are for. */
function labelledIn(root: HtmlNode, html: string): ReadonlySet<string> {
  const ids = new Set<string>()
  if (!/<label/i.test(html)) return ids
  walkHtml(root, (node) => {
    if ('tagName' in node && node.tagName === 'label') {
      const to = node.attrs.find((attr) => attr.name === 'for')
      if (to) ids.add(to.value)
    }
  })
  return ids
}

/** Elements that a parser makes again where they are not closed. */
const formatting = new Set('a b big code em font i nobr s small strike strong tt u'.split(' '))

/** Whether a text is a document of its own and no piece of one. */
const isDocument = (html: string): boolean =>
  /^\s*(?:<!--[\s\S]*?-->\s*)?<(?:!doctype|html|head)[\s>]/i.test(html)

/** Reads a fragment (a slot's content) or a whole document once, for all that later steps ask. */
export function readHtml(html: string, whole = isDocument(html)): HtmlFacts {
  const { root, errors, errorCount } = parseHtml(html, whole)
  const found: Reference[] = []
  const ids: string[] = []
  const fixed: Range[] = []
  const bases: PlacedRange[] = []
  const lines = new Lines(html)
  const hasBreaks = html.includes('\n')
  const headings: (Heading & { text: string })[] = []
  const seen = new Set<number>()
  const notes: ElementNote[] = []
  const links: ReadLink[] = []
  const pictures: ReadPicture[] = []
  let wordCount = 0
  const labelled = labelledIn(root, html)
  walkHtml(root, (node) => {
    if (!('tagName' in node)) {
      if (node.nodeName === '#text' && 'value' in node) {
        const holder = 'parentNode' in node ? node.parentNode?.nodeName : undefined
        if (holder === 'script' || holder === 'style') return
        wordCount += countWords(node.value)
        const at = node.sourceCodeLocation
        const filler = at && notes.length < mostNotes ? fillerIn(html.slice(at.startOffset, at.endOffset), at.startOffset) : null // prettier-ignore
        if (filler) notes.push(filler)
      }
      // What stands in the heading that began last; of one within another only its own is told.
      const open = headings[headings.length - 1]
      if (open && node.nodeName === '#text' && 'value' in node && open.text.length < longestHeading)
        if ((node.sourceCodeLocation?.startOffset ?? Infinity) < open.end) open.text += node.value
      return
    }
    // A link that is not closed before a block begins is there again in each block (HTML §13.2.4.3), written once.
    const begins = node.sourceCodeLocation?.startOffset
    if (begins !== undefined && seen.has(begins)) return
    if (begins !== undefined && formatting.has(node.tagName)) seen.add(begins)
    const id = node.attrs.find((attr) => attr.name === 'id')
    if (id) ids.push(id.value)
    elementReferences(html, node, found)
    if (notes.length < mostNotes) notes.push(...notesOf(node, labelled))
    const tag = node.sourceCodeLocation?.startTag ?? node.sourceCodeLocation
    if (tag && node.tagName === 'a' && links.length < mostLinks) {
      const href = node.attrs.find((attr) => attr.name === 'href')?.value.trim()
      const range = { start: tag.startOffset, end: tag.endOffset, ...lines.placeOf(tag.startOffset) }
      if (href !== undefined) links.push({ href, words: wordsIn(node, longestLink), ...range })
    }
    if (tag && node.tagName === 'img' && pictures.length < mostLinks) {
      const value = (name: string) => node.attrs.find((attr) => attr.name === name)?.value
      const range = { start: tag.startOffset, end: tag.endOffset, ...lines.placeOf(tag.startOffset) }
      const size = { width: pixels(value('width')), height: pixels(value('height')) }
      pictures.push({ src: value('src')?.trim() ?? '', ...size, ...range })
    }
    if (hasBreaks) for (const range of fixedRanges(node, lines)) fixed.push(range)
    const where = node.sourceCodeLocation
    if (node.tagName === 'base' && where && node.attrs.some((attr) => attr.name === 'href'))
      bases.push({ start: where.startOffset, end: where.endOffset, ...lines.placeOf(where.startOffset) })
    if (/^h[1-6]$/.test(node.tagName) && where?.startTag)
      headings.push({
        level: Number(node.tagName[1]),
        text: '',
        id: id?.value ?? null,
        idAt: where.startOffset + 1 + node.tagName.length,
        start: where.startOffset,
        end: where.endOffset,
        ...lines.placeOf(where.startOffset),
      })
    const inner = node.childNodes[0]
    if (node.tagName === 'style' && inner && inner.nodeName === '#text' && inner.sourceCodeLocation) {
      const offset = inner.sourceCodeLocation.startOffset
      const css = html.slice(offset, inner.sourceCodeLocation.endOffset)
      for (const reference of findCssReferences(css))
        found.push({ ...reference, start: reference.start + offset, end: reference.end + offset })
    }
  })
  fixed.sort((a, b) => a.start - b.start)
  const references = found.map((one) => ({ ...one, ...lines.placeOf(one.start) }))
  for (const heading of headings)
    heading.text = heading.text.replace(/\s+/g, ' ').trim().slice(0, longestHeading)
  const told = <T extends Range>(one: T) => ({
    ...one,
    ...lines.placeOf(one.start),
    piece: pieceOf(html, one.start, one.end),
  })
  return {
    references,
    errors,
    errorCount,
    fixed,
    bases,
    ids,
    headings,
    tags: findTagFaults(html).map(told),
    notes: notes.map(told),
    links,
    pictures,
    wordCount,
  }
}

/** Words between white space, without making a list of them. */
function countWords(text: string): number {
  let count = 0
  let isIn = false
  for (let at = 0; at < text.length; at++) {
    const isBlank = text.charCodeAt(at) <= 32
    if (!isBlank && !isIn) count += 1
    isIn = !isBlank
  }
  return count
}
