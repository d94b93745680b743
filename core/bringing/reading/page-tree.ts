import {
  applyEdits,
  attributeOf,
  attributeValueRange,
  endsHeading,
  findScriptReferences,
  type HtmlAttribute,
  type HtmlElement,
  type HtmlNode,
  isElement,
  isLikePath,
  type Range,
  seenOnce,
  walkHtml,
} from '#core/markup'

export const childrenOf = (node: HtmlNode): readonly HtmlNode[] =>
  'content' in node ? node.content.childNodes : 'childNodes' in node ? (node.childNodes as HtmlNode[]) : []

/** A tree node by node, in document order, template contents included. */
export interface InOrder {
  readonly nodes: readonly HtmlNode[]
  /** Which of them each stands in; -1 for the first. */
  readonly parents: readonly number[]
  /** Elements that the parser made again: what they are written as stands elsewhere (`seenOnce`). */
  readonly again: ReadonlySet<HtmlNode>
}

export function inOrderOf(root: HtmlNode): InOrder {
  const nodes: HtmlNode[] = []
  const parents: number[] = []
  const stack: HtmlNode[] = [root]
  const within: number[] = [-1]
  const again = new Set<HtmlNode>()
  const isSeen = seenOnce()
  while (stack.length > 0) {
    const node = stack.pop()!
    const at = nodes.push(node) - 1
    if (isElement(node) && isSeen(node)) again.add(node)
    parents.push(within.pop()!)
    const children = childrenOf(node)
    for (let last = children.length - 1; last >= 0; last--) {
      stack.push(children[last]!)
      within.push(at)
    }
  }
  return { nodes, parents, again }
}

/** An attribute, wherever it stands. */
export const withoutPlace = ({ name, value }: HtmlAttribute): HtmlAttribute => ({ name, value })

/** White space as it is shown. */
export const shownText = (text: string): string => text.replace(/\s+/g, ' ').trim()

export function textIn(node: HtmlNode): string {
  let text = ''
  walkHtml(node, (one) => {
    if (one.nodeName === '#text' && 'value' in one) text += one.value
  })
  return shownText(text)
}

/** What a heading says: where its end tag is forgotten, no more than what stands before the first thing that it cannot hold. */
export function textOfHeading(heading: HtmlElement): string {
  if (heading.sourceCodeLocation?.endTag) return textIn(heading)
  let text = ''
  let isSaid = false
  let isOver = false
  walkHtml(heading, (one) => {
    if (isOver) return
    if (isElement(one)) isOver = isSaid && endsHeading(one.tagName)
    else if (one.nodeName === '#text' && 'value' in one) {
      text += one.value
      isSaid ||= /\S/.test(one.value)
    }
  })
  return shownText(text)
}

/** What a link says: its text, or what its pictures say instead (HTML §4.8.4.4.2); a place on a picture says what it has for words (§4.8.14). */
export function saidIn(link: HtmlElement): { readonly label: string; readonly isPicture: boolean } {
  if (link.tagName === 'area') return { label: shownText(attributeOf(link, 'alt') ?? ''), isPicture: false }
  const text = textIn(link)
  if (text !== '') return { label: text, isPicture: false }
  const alternatives: string[] = []
  walkHtml(link, (one) => {
    if (isElement(one) && one.tagName === 'img') alternatives.push(attributeOf(one, 'alt') ?? '')
  })
  return { label: shownText(alternatives.join(' ')), isPicture: true }
}

/** Where a node stands in its source; null for one that the parser added. */
export function rangeOf(node: HtmlNode): Range | null {
  const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
  return where ? { start: where.startOffset, end: where.endOffset } : null
}

/** Where the inside of an element stands; null where its tags are not written. */
export function insideOf(element: HtmlElement): Range | null {
  const where = element.sourceCodeLocation
  if (!where?.startTag) return null
  return { start: where.startTag.endOffset, end: where.endTag?.startOffset ?? where.endOffset }
}

export const isDescription = (node: HtmlNode): node is HtmlElement =>
  isElement(node) && node.tagName === 'meta' && attributeOf(node, 'name')?.toLowerCase() === 'description'

/** What says which encoding a page is in (HTML §4.2.5). */
export const isCharset = (node: HtmlNode): node is HtmlElement =>
  isElement(node) &&
  node.tagName === 'meta' &&
  (attributeOf(node, 'charset') !== undefined ||
    attributeOf(node, 'http-equiv')?.toLowerCase() === 'content-type')

/** What these are called among what a frame is aligned by. */
export const descriptionKey = 'description'
export const charsetKey = 'charset'

/** What others who show a page are told of it, besides what it says anyway, under a prefix of theirs: `og:title`, `dc.description`. */
const toldOthers = /^[a-z]+[:.](?:title|description|url)$/

/** What an element of a head says of its page for others: as what, in which attribute (RFC 6596; Open Graph); null for any other. */
export function saidBy(
  element: HtmlElement,
): { readonly key: string; readonly attribute: string; readonly value: string } | null {
  const said = (key: string, attribute: string) => {
    const value = attributeOf(element, attribute)
    return value === undefined ? null : { key, attribute, value: value.trim() }
  }
  if (element.tagName === 'link')
    return /(^|\s)canonical(\s|$)/i.test(attributeOf(element, 'rel') ?? '') ? said('canonical', 'href') : null
  if (element.tagName !== 'meta') return null
  const name = (attributeOf(element, 'property') ?? attributeOf(element, 'name') ?? '').trim().toLowerCase()
  return toldOthers.test(name) ? said(name, 'content') : null
}

/** Attributes whose value is a reference, as far as menus and frames have them. */
const referring = new Set(['href', 'src', 'action', 'data', 'poster', 'background', 'longdesc', 'lowsrc'])

/** Elements to which a second start tag of theirs adds its attributes (HTML §13.2.6.4.7): they do not stand in the first. */
const addedTo = /^(html|body)$/

/**
 * What a reference leads to, written alike on every page.
 * @param ifThere whether it is mere words where nothing stands there
 */
export type GoalOf = (href: string, ifThere?: boolean) => string

/** A script with what it refers to by what that leads to. */
export function scriptKey(code: string, goalOf: GoalOf): string {
  const edits = findScriptReferences(code).map(({ start, end, href, ifThere }) => {
    return { start, end, text: goalOf(href, ifThere) }
  })
  return shownText(edits.length === 0 ? code : applyEdits(code, edits))
}

/** The value of an attribute, its references by what they lead to. */
export function valueKey(name: string, value: string, goalOf: GoalOf): string {
  if (referring.has(name)) return goalOf(value)
  if (/^on[a-z]/.test(name)) return scriptKey(value, goalOf)
  return isLikePath(value) ? goalOf(value, true) : shownText(value)
}

/** A start tag of a frame, as it is written. */
export interface WrittenTag {
  /** After its name, where an attribute can be put. */
  readonly start: number
  readonly attributes: ReadonlyMap<
    string,
    {
      readonly value: string
      /** Equal for values that say the same (`valueKey`). */
      readonly key: string
      /** Its value, quotes excluded; null where it is written without one. */
      readonly range: Range | null
      /** Whether it reads like a path. */
      readonly refers: boolean
    }
  >
}

/** A tag with the attributes that are written in it: a second one adds some (HTML §13.2.6.4.7), which are not. */
export function writtenTag(
  { tagName, attrs, sourceCodeLocation: where }: HtmlElement,
  text: string,
  goalOf: GoalOf,
): WrittenTag {
  return {
    start: where!.startTag!.startOffset + 1 + tagName.length,
    attributes: new Map(
      attrs.flatMap(({ name, value, at }) => {
        if (!at) return []
        const refers = isLikePath(value)
        return [
          [name, { value, key: valueKey(name, value, goalOf), range: attributeValueRange(text, at), refers }],
        ]
      }),
    ),
  }
}

/** A start tag as it is written, its references by what they lead to: equal texts, equal tags. */
export function startTagKey(element: HtmlElement, goalOf: GoalOf): string {
  const where = element.sourceCodeLocation
  const written =
    addedTo.test(element.tagName) && where ? element.attrs.filter(({ at }) => at) : element.attrs
  const attributes = written.map(({ name, value }) => `${name}=${valueKey(name, value, goalOf)}`)
  return `<${element.tagName} ${attributes.sort().join(' ')}>`
}

/** What a page says of how it is to be read (HTML §13.1.1), as it counts; null for what says nothing of it. */
export const doctypeKey = (node: HtmlNode): string | null =>
  node.nodeName === '#documentType' && 'publicId' in node
    ? `<!doctype ${node.name} ${node.publicId} ${node.systemId}>`.toLowerCase()
    : null
