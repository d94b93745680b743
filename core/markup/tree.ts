// The tree of a text (HTML §4 and §13.2.6), whichever of the two parsers made it, and where its nodes stand in the source.

/** A part of the source, in UTF-16 code units. */
export interface Span {
  readonly startOffset: number
  readonly endOffset: number
}

/** Where an attribute is written. */
export interface AttributePlace extends Span {
  /** Where its value stands, quotes excluded, where the parser tells; -1 where it has none. */
  readonly valueStart?: number
}

/** An attribute, its name in lower case and its value with character references resolved. */
export interface HtmlAttribute {
  readonly name: string
  value: string
  /** Of one in a namespace: `xlink` of `xlink:href`. */
  readonly prefix?: string
  readonly namespace?: string
  /** Where it is written, from its name to the end of its value; missing for one that a second tag of its element added. */
  at?: AttributePlace
}

/** Where an element stands: from its start tag to its end tag, or to what ended it. */
export interface HtmlPlace extends Span {
  /** As it is written; missing for what has no tags. */
  readonly startTag?: Span
  /** Missing where it is not written. */
  readonly endTag?: Span
}

interface Child {
  parentNode: HtmlParent | null
}

export interface HtmlElement extends Child {
  readonly nodeName: string
  readonly tagName: string
  readonly namespaceURI: string
  readonly attrs: HtmlAttribute[]
  readonly childNodes: HtmlChild[]
  /** Missing for one that the parser added. */
  sourceCodeLocation?: HtmlPlace | null
}

export interface HtmlTemplate extends HtmlElement {
  readonly content: HtmlFragment
}

export interface HtmlText extends Child {
  readonly nodeName: '#text'
  value: string
  sourceCodeLocation?: Span | null
}

export interface HtmlComment extends Child {
  readonly nodeName: '#comment'
  readonly data: string
  sourceCodeLocation?: Span | null
}

export interface HtmlDoctype extends Child {
  readonly nodeName: '#documentType'
  readonly name: string
  readonly publicId: string
  readonly systemId: string
  sourceCodeLocation?: Span | null
}

export interface HtmlDocument {
  readonly nodeName: '#document'
  /** Whether its doctype asks for the ways of old browsers (HTML §13.2.6.4.1). */
  readonly mode: string
  readonly childNodes: HtmlChild[]
}

export interface HtmlFragment {
  readonly nodeName: '#document-fragment'
  readonly childNodes: HtmlChild[]
}

export type HtmlParent = HtmlDocument | HtmlFragment | HtmlElement | HtmlTemplate
export type HtmlChild = HtmlElement | HtmlTemplate | HtmlText | HtmlComment | HtmlDoctype
export type HtmlNode = HtmlParent | HtmlChild

export const isElement = (node: HtmlNode): node is HtmlElement => 'tagName' in node

/** The value of an attribute, as the parser has it. */
export const attributeOf = (element: HtmlElement, name: string): string | undefined =>
  element.attrs.find((one) => one.name === name)?.value

/** Where an attribute is written; null where it is not. */
export const attributePlace = (element: HtmlElement, name: string): AttributePlace | null =>
  element.attrs.find((one) => one.name === name)?.at ?? null

/** Where an attribute's value stands in the source; null when it has none. */
export function attributeValueRange(
  html: string,
  where: AttributePlace,
): { start: number; end: number; quoted: boolean } | null {
  const { valueStart, endOffset } = where
  if (valueStart !== undefined) {
    if (valueStart < 0) return null
    const sign = html.charCodeAt(endOffset - 1)
    const quoted = html.charCodeAt(valueStart - 1) === sign && (sign === 0x22 || sign === 0x27)
    return { start: valueStart, end: endOffset - (quoted ? 1 : 0), quoted }
  }
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
