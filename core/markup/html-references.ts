import { type AttributeText, readAttributeText } from './attribute-text'
import { findCssReferences, type Reference } from './css'
import { attributeValueRange, type HtmlElement, parsePlaces, walkHtml } from './parse'
import { srcsetUrls } from './srcset'

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

/** What an element refers to: by its attributes, and a style sheet within it. */
export function referencesOf(html: string, element: HtmlElement, found: Reference[]): void {
  elementReferences(html, element, found)
  const inner = element.childNodes[0]
  if (element.tagName !== 'style' || inner?.nodeName !== '#text' || !inner.sourceCodeLocation) return
  const { startOffset: offset, endOffset } = inner.sourceCodeLocation
  for (const reference of findCssReferences(html.slice(offset, endOffset)))
    found.push({ ...reference, start: reference.start + offset, end: reference.end + offset })
}

/** The references of a whole document and nothing else: for a text that is read once and not kept. */
export function referencesIn(html: string): Reference[] {
  const found: Reference[] = []
  const isSeen = seenOnce()
  walkHtml(parsePlaces(html), (node) => {
    if ('tagName' in node && !isSeen(node)) referencesOf(html, node, found)
  })
  return found
}

/**
 * Tells elements that a parser made again: a link that is not closed before a block begins is there again in
 * each block (HTML §13.2.4.3), and is written once.
 */
export function seenOnce(): (element: HtmlElement) => boolean {
  const seen = new Set<number>()
  return ({ tagName, sourceCodeLocation }) => {
    const begins = sourceCodeLocation?.startOffset
    if (begins === undefined) return false
    if (seen.has(begins)) return true
    if (formatting.has(tagName)) seen.add(begins)
    return false
  }
}

/** Elements that a parser makes again where they are not closed. */
const formatting = new Set('a b big code em font i nobr s small strike strong tt u'.split(' '))
