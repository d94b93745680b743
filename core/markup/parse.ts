import {
  defaultTreeAdapter,
  html,
  type DefaultTreeAdapterMap,
  parse,
  Parser,
  type ParserError,
  type Token,
} from 'parse5'
import { Lines } from './lines'
import { parsePlain } from './plain'
import { findTagFaults } from './tags'
import type { HtmlAttribute, HtmlDocument, HtmlElement, HtmlNode, HtmlPlace, Span } from './tree'

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

/** Where a node stands, of one shape for all: what gets a property later is slow to be written to. */
class Place implements HtmlPlace {
  readonly startOffset: number
  endOffset: number
  readonly startTag: Span | undefined
  endTag: Span | undefined

  constructor({ startOffset, endOffset, startTag, endTag }: Token.ElementLocation) {
    this.startOffset = startOffset
    this.endOffset = endOffset
    this.startTag = startTag && spanOf(startTag)
    this.endTag = endTag && spanOf(endTag)
  }
}

const spanOf = ({ startOffset, endOffset }: Token.Location): Span => ({ startOffset, endOffset })

/** Notes at each attribute where it is written: names in drawings are no longer as they are there. */
function placeAttributes(attrs: readonly HtmlAttribute[], places: Token.LocationWithAttributes['attrs']) {
  if (!places) return
  for (const attr of attrs) {
    const name = attr.prefix ? `${attr.prefix}:${attr.name}` : attr.name
    const where = places[name] ?? places[name.toLowerCase()]
    if (where) attr.at = spanOf(where)
  }
}

/** The usual tree, with the places of `tree.ts`. */
const treeAdapter: typeof defaultTreeAdapter = {
  ...defaultTreeAdapter,
  // An element that is made again where it was not closed has the attributes of the first, which are written there.
  createElement(tagName, namespaceURI, attrs) {
    const own = attrs.map((attr) => ({ ...attr }))
    return defaultTreeAdapter.createElement(tagName, namespaceURI, own)
  },
  setNodeSourceCodeLocation(node, where) {
    if (where && 'attrs' in node && 'attrs' in where) placeAttributes(node.attrs, where.attrs)
    node.sourceCodeLocation = where && (new Place(where) as unknown as Token.ElementLocation)
  },
  updateNodeSourceCodeLocation(node, end) {
    const where = node.sourceCodeLocation as Place | null | undefined
    if (where) {
      where.endOffset = end.endOffset!
      if (end.endTag) where.endTag = spanOf(end.endTag)
    } else
      node.sourceCodeLocation = new Place(end as Token.ElementLocation) as unknown as Token.ElementLocation
  },
}

/** Errors told one by one; of more, the count tells. */
const mostErrors = 1_000

/**
 * A parser that tells of start tags which make no element: a second `html` or `body` gives its attributes to the first
 * (HTML §13.2.6.4.7), which may be one that nobody wrote; those of a piece, and its frames, belong to the page around it.
 */
class TellingParser extends Parser<DefaultTreeAdapterMap> {
  readonly added: HtmlElement[] = []

  override onEndTag(token: Token.TagToken): void {
    super.onEndTag(token)
    endFrames(this, token)
  }

  override onStartTag(token: Token.TagToken): void {
    super.onStartTag(token)
    const { tagName, attrs, location } = token
    if (!location || attrs.length === 0) return
    if (tagName !== 'body' && tagName !== 'html' && !(tagName === 'frame' && this.fragmentContext)) return
    const element = this.openElements.items.find((one) => 'tagName' in one && one.tagName === tagName)
    if (element?.sourceCodeLocation?.startOffset === location.startOffset) return
    const written = attrs.map((attr): HtmlAttribute => ({ ...attr }))
    placeAttributes(written, location.attrs)
    const bare: HtmlElement = {
      ...{ nodeName: tagName, tagName, namespaceURI: html.NS.HTML, attrs: written },
      ...{ childNodes: [], parentNode: null },
    }
    this.added.push({ ...bare, sourceCodeLocation: new Place({ ...location, startTag: location }) })
  }
}

/** Says where a document of frames ends, which has no body to end before it (HTML §13.2.6.4.21). */
function endFrames(parser: Parser<DefaultTreeAdapterMap>, { tagName, location }: Token.TagToken): void {
  const root = tagName === 'html' && !parser.fragmentContext ? parser.openElements.items[0] : undefined
  if (!root || !('tagName' in root) || !location || root.sourceCodeLocation?.endTag) return
  const isOfFrames = root.childNodes.some(({ nodeName }) => nodeName === 'frameset')
  if (isOfFrames) treeAdapter.updateNodeSourceCodeLocation(root, { ...location, endTag: location })
}

type TellError = (error: ParserError) => void

/** Parses a whole document, whatever it is like. */
function parseDocument(text: string, onParseError?: TellError) {
  const parser = new TellingParser({
    sourceCodeLocationInfo: true,
    treeAdapter,
    onParseError: onParseError ?? null,
  })
  parser.tokenizer.write(text, true)
  return { root: parser.document as HtmlDocument, added: parser.added }
}

/** Parses a piece of one, whatever it is like. */
export function parsePiece(text: string, onParseError?: TellError): Pick<ParsedHtml, 'root' | 'added'> {
  const options = { sourceCodeLocationInfo: true, treeAdapter, onParseError: onParseError ?? null }
  // Made by the class that it is asked of.
  const parser = TellingParser.getFragmentParser<DefaultTreeAdapterMap>(null, options) as TellingParser
  parser.tokenizer.write(text, true)
  return { root: parser.getFragment() as HtmlNode, added: parser.added }
}

/** The tree of a document that ends with its first tag; null where that is no end of it. */
function openDocument(opening: string, onParseError?: TellError): HtmlDocument | null {
  const { root } = parseDocument(opening, onParseError)
  // The head and the body that the parser adds where none are written.
  const first = root.childNodes[root.childNodes.length - 1] as HtmlElement
  if (first.sourceCodeLocation?.startTag?.endOffset !== opening.length) return null
  first.childNodes.length = 0
  return root
}

export interface ParsedHtml {
  readonly root: HtmlNode
  /** Tags of a whole document that made no element: what they say is another's. */
  readonly added: readonly HtmlElement[]
  /** Whether each tag of it has the one that it needs. */
  readonly isPlain: boolean
  readonly errors: MarkupError[]
  readonly errorCount: number
}

/** Parses a whole document for where things stand in it; what is wrong with it is not told. */
export function parsePlaces(text: string): Pick<ParsedHtml, 'root' | 'added'> {
  const plain = parsePlain(text, openDocument)
  return plain ? { root: plain, added: [] } : parseDocument(text)
}

/** Parses a whole document for what it is, wherever it stands. */
export const parseTree = (text: string): HtmlNode =>
  parsePlain(text, openDocument) ?? (parse(text, { treeAdapter }) as HtmlNode)

/** Parses a whole document or a fragment, with source locations and errors. */
export const parseHtml = (text: string, whole: boolean): ParsedHtml =>
  parseIfPlain(text, whole) ?? parseAny(text, whole)

/** Collects what is wrong with a text. */
class Errors {
  readonly errors: MarkupError[] = []
  errorCount = 0

  constructor(readonly text: string) {}

  readonly tell = (error: ParserError): void => {
    if (++this.errorCount > mostErrors) return
    this.errors.push({
      code: error.code,
      line: error.startLine,
      column: error.startCol,
      start: error.startOffset,
      end: error.endOffset,
      piece: lineAt(this.text, error.startOffset),
    })
  }

  /** A tag that does not end is told where it begins: the end of the text, where a parser gives up, says nothing. */
  findUnfinished(): void {
    const at = this.errors.findIndex(({ code }) => code === 'eof-in-tag')
    if (at < 0) return
    findTagFaults(this.text, (start) => {
      const place = new Lines(this.text).placeOf(start)
      const piece = lineAt(this.text, start)
      this.errors[at] = { ...this.errors[at]!, ...place, start, end: start + 1, piece }
    })
  }
}

/** What `parseAny` makes of a text, where it is plain (`parsePlain`). */
function parseIfPlain(text: string, whole: boolean): ParsedHtml | null {
  const told = new Errors(text)
  // A doctype of old is an error in a text that is plain for the rest.
  const root = parsePlain(text, whole ? (opening) => openDocument(opening, told.tell) : null)
  return root && { root, added: [], isPlain: true, errors: told.errors, errorCount: told.errorCount }
}

/** Parses a text, whatever it is like. */
export function parseAny(text: string, whole: boolean): ParsedHtml {
  const told = new Errors(text)
  const { root, added } = whole ? parseDocument(text, told.tell) : parsePiece(text, told.tell)
  told.findUnfinished()
  return { root, added, isPlain: false, errors: told.errors, errorCount: told.errorCount }
}

/** Letters of a piece of source that are told. */
const longestPiece = 120

export const pieceOf = (html: string, start: number, end: number): string =>
  html.slice(start, Math.min(end, start + longestPiece)).replace(/\s+/g, ' ')

/** The line around a place, or what stands next to it where that is long. */
export function lineAt(html: string, place: number): string {
  const from = Math.max(html.lastIndexOf('\n', place - 1) + 1, place - longestPiece / 2)
  const end = html.indexOf('\n', place)
  return html.slice(from, Math.min(end < 0 ? html.length : end, from + longestPiece)).trim()
}
