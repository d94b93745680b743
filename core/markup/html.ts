import { type DefaultTreeAdapterMap, parse, parseFragment, type ParserError, type Token } from 'parse5'
import { findCssReferences, type Reference } from './css'

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
}

/** What one reading of a text yields. Depends on nothing but the text, so it may be kept by hash. */
export interface HtmlFacts {
  readonly references: readonly Reference[]
  readonly errors: readonly MarkupError[]
  /** Values of `id`, in order, repeated ones too. */
  readonly ids: readonly string[]
}

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

/** Parses a whole document or a fragment, with source locations and errors. */
export function parseHtml(html: string, whole: boolean): { root: HtmlNode; errors: MarkupError[] } {
  const errors: MarkupError[] = []
  const options = {
    sourceCodeLocationInfo: true,
    onParseError: (error: ParserError) =>
      errors.push({
        code: error.code,
        line: error.startLine,
        column: error.startCol,
        start: error.startOffset,
        end: error.endOffset,
      }),
  }
  const root = whole ? parse(html, options) : parseFragment(html, options)
  return { root, errors }
}

/** Splits a `srcset` into its URLs (HTML §4.8.4.4, as far as where the URLs stand). */
function srcsetUrls(value: string): { offset: number; url: string }[] {
  const urls: { offset: number; url: string }[] = []
  const candidate = /[\s,]*([^\s,][^\s]*)((?:[^,(]|\([^)]*\))*)/gy
  for (let match = candidate.exec(value); match; match = candidate.exec(value)) {
    const offset = match.index + match[0].indexOf(match[1]!)
    const url = match[1]!.replace(/,+$/, '')
    if (url.length < match[1]!.length) candidate.lastIndex = offset + match[1]!.length
    urls.push({ offset, url })
  }
  return urls
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
    // Offsets inside the value hold only while no character reference makes it shorter than its source.
    const literal = html.slice(range.start, range.end) === attr.value
    if (isUrl) {
      const lead = literal ? attr.value.length - attr.value.trimStart().length : 0
      const tail = literal ? attr.value.length - attr.value.trimEnd().length : 0
      found.push({
        start: range.start + lead,
        end: Math.max(range.start + lead, range.end - tail),
        href: attr.value.trim(),
        syntax: range.quoted ? 'attribute' : 'unquoted-attribute',
        holder,
      })
    } else if (isSet && literal) {
      for (const { offset, url } of srcsetUrls(attr.value))
        found.push({
          start: range.start + offset,
          end: range.start + offset + url.length,
          href: url,
          syntax: 'srcset',
          holder,
        })
    } else if (name === 'style' && literal) {
      for (const reference of findCssReferences(attr.value, 'declarationList'))
        found.push({
          ...reference,
          start: range.start + reference.start,
          end: range.start + reference.end,
          holder,
        })
    }
  }
}

/** Reads a fragment (a slot's content) or a whole document once, for all that later steps ask. */
export function readHtml(html: string, whole = false): HtmlFacts {
  const { root, errors } = parseHtml(html, whole)
  const references: Reference[] = []
  const ids: string[] = []
  walkHtml(root, (node) => {
    if (!('tagName' in node)) return
    const id = node.attrs.find((attr) => attr.name === 'id')
    if (id) ids.push(id.value)
    elementReferences(html, node, references)
    const inner = node.childNodes[0]
    if (node.tagName === 'style' && inner && inner.nodeName === '#text' && inner.sourceCodeLocation) {
      const offset = inner.sourceCodeLocation.startOffset
      const css = html.slice(offset, inner.sourceCodeLocation.endOffset)
      for (const reference of findCssReferences(css))
        references.push({ ...reference, start: reference.start + offset, end: reference.end + offset })
    }
  })
  return { references, errors, ids }
}
