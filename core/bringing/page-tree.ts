import {
  type HtmlElement,
  type HtmlNode,
  parseHtml,
  type PlacedReference,
  type Range,
  readToPlace,
  walkHtml,
} from '#core/markup'
import type { BroughtFile } from './brought'
import type { OldNames } from './old-names'

/** A page that was brought in, read. */
export interface ReadPage {
  readonly id: string
  readonly path: string
  readonly text: string
  readonly root: HtmlNode
  readonly references: readonly PlacedReference[]
  /** What a reference of it leads to, written alike on every page. */
  readonly goalOf: (href: string) => string
  /** Whether it says which encoding it is in. */
  readonly charset: boolean
  readonly title: { readonly text: string; readonly range: Range } | null
  readonly description: { readonly text: string; readonly range: Range } | null
  /** What its first `h1` says. */
  readonly heading: string | null
}

export const isElement = (node: HtmlNode): node is HtmlElement => 'tagName' in node
export const childrenOf = (node: HtmlNode): readonly HtmlNode[] =>
  'content' in node ? node.content.childNodes : 'childNodes' in node ? (node.childNodes as HtmlNode[]) : []

/** White space as it is shown. */
export const shownText = (text: string): string => text.replace(/\s+/g, ' ').trim()

export function textIn(node: HtmlNode): string {
  let text = ''
  walkHtml(node, (one) => {
    if (one.nodeName === '#text' && 'value' in one) text += one.value
  })
  return shownText(text)
}

/** Where a node stands in its source; null for one that the parser added. */
export function rangeOf(node: HtmlNode): Range | null {
  const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
  return where ? { start: where.startOffset, end: where.endOffset } : null
}

const attributeOf = (element: HtmlElement, name: string) =>
  element.attrs.find((one) => one.name === name)?.value

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

function readPage(
  { id, path, text }: { readonly id: string; readonly path: string; readonly text: string },
  goalOf: ReadPage['goalOf'],
): ReadPage {
  const parsed = parseHtml(text, true)
  const { root } = parsed
  let title: ReadPage['title'] = null
  let description: ReadPage['description'] = null
  let heading: string | null = null
  let charset = false
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    const where = node.sourceCodeLocation
    if (node.tagName === 'title' && where?.startTag && where.endTag && title === null)
      title = {
        text: textIn(node),
        range: { start: where.startTag.endOffset, end: where.endTag.startOffset },
      }
    charset ||= isCharset(node)
    if (isDescription(node) && where && description === null)
      description = {
        text: attributeOf(node, 'content') ?? '',
        range: { start: where.startOffset, end: where.endOffset },
      }
    if (node.tagName === 'h1' && heading === null) heading = textIn(node) || null
  })
  const facts = readToPlace(text, true, parsed)
  forgetAttributePlaces(root)
  return {
    id,
    path,
    text,
    root,
    references: facts.references,
    goalOf,
    charset,
    title,
    description,
    heading,
  }
}

/**
 * Takes from a tree where its attributes stand, but for those of `meta`, which are written anew: all trees of a site are
 * held at once, and a third of each was this.
 */
function forgetAttributePlaces(root: HtmlNode): void {
  walkHtml(root, (node) => {
    const where = isElement(node) && node.tagName !== 'meta' ? node.sourceCodeLocation : null
    if (where) delete where.attrs
  })
}

/** Reads pages, each reference of them written by what it leads to. */
export const readPages = (
  files: readonly BroughtFile[],
  old: Pick<OldNames, 'resolve' | 'idOf'>,
  onPage?: () => void,
): ReadPage[] =>
  files.map(({ path, text = '' }) => {
    onPage?.()
    const goalOf = (href: string): string => {
      const target = old.resolve(href.trim(), path)
      return 'id' in target ? `${target.id}${target.suffix}` : href
    }
    return readPage({ id: old.idOf.get(path)!, path, text: text.replace(/\r\n?/g, '\n') }, goalOf)
  })

/** Attributes whose value is a reference, as far as menus and frames have them. */
const referring = new Set(['href', 'src', 'action', 'data', 'poster', 'background'])

/** A start tag, its references by what they lead to: equal texts, equal tags. */
export function startTagKey(element: HtmlElement, goalOf: ReadPage['goalOf']): string {
  const attributes = element.attrs.map(({ name, value }) =>
    referring.has(name) ? `${name}=${goalOf(value)}` : `${name}=${shownText(value)}`,
  )
  return `<${element.tagName} ${attributes.sort().join(' ')}>`
}

/** Numbers for equal things. */
export class Numbers {
  readonly #known = new Map<string, number>()
  of(key: string): number {
    let number = this.#known.get(key)
    if (number === undefined) this.#known.set(key, (number = this.#known.size))
    return number
  }
}

/**
 * A number for each node of a page: equal numbers, equal subtrees, white space aside and references by what
 * they lead to. Bottom up, each node once.
 */
export function numberNodes(page: ReadPage, numbers: Numbers): Map<HtmlNode, number> {
  const of = new Map<HtmlNode, number>()
  const inOrder: HtmlNode[] = []
  walkHtml(page.root, (node) => void inOrder.push(node))
  for (let at = inOrder.length - 1; at >= 0; at--) {
    const node = inOrder[at]!
    if (node.nodeName === '#text' && 'value' in node) {
      of.set(node, numbers.of(`text ${shownText(node.value)}`))
      continue
    }
    const children = childrenOf(node)
      .map((child) => of.get(child)!)
      .filter((number) => number !== numbers.of('text '))
    const self = isElement(node)
      ? startTagKey(node, page.goalOf)
      : 'data' in node
        ? `<!--${String(node.data)}-->`
        : node.nodeName
    of.set(node, numbers.of(`${self} ${children.join()}`))
  }
  return of
}
