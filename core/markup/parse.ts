import {
  defaultTreeAdapter,
  html,
  type DefaultTreeAdapterMap,
  parse,
  parseFragment,
  Parser,
  type ParserError,
  type ParserOptions,
  type Token,
} from 'parse5'

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

export const isElement = (node: HtmlNode): node is HtmlElement => 'tagName' in node

/** The value of an attribute, as the parser has it. */
export const attributeOf = (element: HtmlElement, name: string): string | undefined =>
  element.attrs.find((one) => one.name === name)?.value

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

/** Where an element stands, of one shape for all: what gets a property later is slow to be written to. */
class Place implements Token.ElementLocation {
  startLine: number
  startCol: number
  startOffset: number
  endLine: number
  endCol: number
  endOffset: number
  attrs: Token.ElementLocation['attrs']
  startTag: Token.ElementLocation['startTag']
  endTag: Token.ElementLocation['endTag']

  constructor(from: Token.ElementLocation) {
    this.startLine = from.startLine
    this.startCol = from.startCol
    this.startOffset = from.startOffset
    this.endLine = from.endLine
    this.endCol = from.endCol
    this.endOffset = from.endOffset
    this.attrs = from.attrs
    this.startTag = from.startTag
    this.endTag = from.endTag
  }
}

/** The usual tree; where a node ends is noted in place, where the usual way copies all that is known of its place. */
const treeAdapter: typeof defaultTreeAdapter = {
  ...defaultTreeAdapter,
  setNodeSourceCodeLocation(node, where) {
    node.sourceCodeLocation = where && new Place(where)
  },
  updateNodeSourceCodeLocation(node, end) {
    const where = node.sourceCodeLocation as Place | null | undefined
    if (where) {
      where.endLine = end.endLine!
      where.endCol = end.endCol!
      where.endOffset = end.endOffset!
      if (end.endTag) where.endTag = end.endTag
    } else node.sourceCodeLocation = end as Token.Location
  },
}

/** Errors told one by one; of more, the count tells. */
const mostErrors = 1_000

/**
 * A parser that tells of start tags which make no element: a second `html` or `body` gives its attributes to the first
 * (HTML §13.2.6.4.7), which may be one that nobody wrote.
 */
class TellingParser extends Parser<DefaultTreeAdapterMap> {
  readonly added: HtmlElement[] = []

  override onStartTag(token: Token.TagToken): void {
    super.onStartTag(token)
    const { tagName, attrs, location } = token
    if ((tagName !== 'body' && tagName !== 'html') || !location || attrs.length === 0) return
    const element = this.openElements.items.find((one) => isElement(one) && one.tagName === tagName)
    if (element?.sourceCodeLocation?.startOffset === location.startOffset) return
    const place = new Place({ ...location, startTag: location })
    const bare = defaultTreeAdapter.createElement(tagName, html.NS.HTML, attrs)
    this.added.push({ ...bare, sourceCodeLocation: place })
  }
}

function parseTelling(text: string, options: ParserOptions<DefaultTreeAdapterMap>) {
  const parser = new TellingParser(options)
  parser.tokenizer.write(text, true)
  return { root: parser.document, added: parser.added }
}

export interface ParsedHtml {
  readonly root: HtmlNode
  /** Tags of a whole document that made no element: what they say is another's. */
  readonly added: readonly HtmlElement[]
  readonly errors: MarkupError[]
  readonly errorCount: number
}

/** Parses a whole document for where things stand in it; what is wrong with it is not told. */
export const parsePlaces = (text: string): Pick<ParsedHtml, 'root' | 'added'> =>
  parseTelling(text, { sourceCodeLocationInfo: true, treeAdapter })

/** Parses a whole document for what it is, wherever it stands. */
export const parseTree = (html: string): HtmlNode => parse(html, { treeAdapter })

/** Parses a whole document or a fragment, with source locations and errors. */
export function parseHtml(text: string, whole: boolean): ParsedHtml {
  const errors: MarkupError[] = []
  let errorCount = 0
  const options = {
    sourceCodeLocationInfo: true,
    treeAdapter,
    onParseError: (error: ParserError) => {
      if (++errorCount > mostErrors) return
      errors.push({
        code: error.code,
        line: error.startLine,
        column: error.startCol,
        start: error.startOffset,
        end: error.endOffset,
        piece: lineAt(text, error.startOffset),
      })
    },
  }
  const { root, added } = whole
    ? parseTelling(text, options)
    : { root: parseFragment(text, options), added: [] }
  return { root, added, errors, errorCount }
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
