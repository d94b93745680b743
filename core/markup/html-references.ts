import { tableOf } from '#core/site'
import { literalText, readAttributeText } from './attribute-text'
import { findCssReferences } from './css'
import type { Reference } from './reference'
import { findDataReferences, findScriptReferences, isLikePath } from './script-references'
import { type ParsedHtml, parsePiece, parsePlaces } from './parse'
import { attributeValueRange, type HtmlElement, walkHtml } from './tree'
import { srcsetUrls } from './srcset'

/**
 * Attributes that hold one URL (HTML "Attributes" index; what it dropped and browsers still follow, §15.3 and §16.2; SVG 2
 * §16.1).
 */
const urlAttributes = tableOf<readonly string[]>({
  a: ['href', 'xlink:href'], area: ['href'], link: ['href'], img: ['src', 'longdesc', 'lowsrc'], source: ['src'],
  script: ['src', 'href', 'xlink:href'], iframe: ['src', 'longdesc'], frame: ['src', 'longdesc'],
  video: ['src', 'poster'], audio: ['src'], bgsound: ['src'], track: ['src'], embed: ['src'], object: ['data'],
  form: ['action'], input: ['src', 'formaction'], button: ['formaction'],
  blockquote: ['cite'], q: ['cite'], del: ['cite'], ins: ['cite'],
  body: ['background'], table: ['background'], thead: ['background'], tbody: ['background'], tfoot: ['background'],
  tr: ['background'], td: ['background'], th: ['background'],
  use: ['href', 'xlink:href'], image: ['href', 'xlink:href'], feimage: ['href', 'xlink:href'],
}) // prettier-ignore
const srcsetAttributes = tableOf<readonly string[]>({
  img: ['srcset'], source: ['srcset'], link: ['imagesrcset'],
}) // prettier-ignore
/** Attributes that hold a path where their author's scripts, a program on the host or another site take it for one. */
const valueAttributes = tableOf<readonly string[]>({
  meta: ['content'], param: ['value'], option: ['value'], input: ['value'], button: ['value'],
}) // prettier-ignore

/** Names of attributes that can hold a reference on any element, but for those that begin as such: nearly all others hold none. */
const names = new Set(
  [
    'style',
    ...[urlAttributes, srcsetAttributes, valueAttributes].flatMap((table) => Object.values(table).flat()),
  ].map((name) => name.replace('xlink:', '')),
)
const mayRefer = (name: string): boolean =>
  names.has(name) || name.startsWith('on') || name.startsWith('data-')

/** What the value of an attribute is read as; null where nothing in it can be a reference. */
type ReadAs = 'url' | 'srcset' | 'style' | 'refresh' | 'script' | 'value'

function readAs(tag: string, name: string, { attrs }: HtmlElement): ReadAs | null {
  if (urlAttributes[tag]?.includes(name)) return 'url'
  if (srcsetAttributes[tag]?.includes(name)) return 'srcset'
  if (name === 'style') return 'style'
  // Event handlers (HTML §8.1.8.1).
  if (/^on[a-z]/.test(name)) return 'script'
  if (name === 'content' && tag === 'meta')
    return attrs.some((one) => one.name === 'http-equiv' && /^\s*refresh\s*$/i.test(one.value))
      ? 'refresh'
      : 'value'
  return name.startsWith('data-') || valueAttributes[tag]?.includes(name) ? 'value' : null
}

/** Where the address stands in what sends on by itself after some seconds (HTML §4.2.5.3). */
const refresh = /^\s*[\d.]*[\s;,]+(?:url\s*=\s*)?(?:"([^"]*)|'([^']*)|(\S.*))/i

/** References in the value of an attribute, by where they stand in what it says. */
function referencesInValue(text: string, as: Exclude<ReadAs, 'url'>, holder: string): Reference[] {
  const written = (start: number, href: string): Reference => {
    const trimmed = href.trim()
    const begins = start + href.length - href.trimStart().length
    return { start: begins, end: begins + trimmed.length, href: trimmed, syntax: 'attribute', holder }
  }
  switch (as) {
    case 'srcset':
      return srcsetUrls(text).map(({ offset, url }): Reference => {
        return { start: offset, end: offset + url.length, href: url, syntax: 'srcset', holder }
      })
    case 'style':
      return findCssReferences(text, 'declarationList')
    case 'script':
      return findScriptReferences(text).map((one) => ({ ...one, holder }))
    case 'refresh': {
      const match = refresh.exec(text)
      const href = match?.[1] ?? match?.[2] ?? match?.[3]
      return match && href?.trim() ? [written(match.index + match[0].length - href.length, href)] : []
    }
    case 'value':
      return isLikePath(text) ? [{ ...written(0, text), ifThere: true }] : []
  }
}

/** Begins an address that is a script (HTML §7.4.2.3.2). */
const scriptAddress = /^\s*javascript:/i

function elementReferences(html: string, element: HtmlElement, found: Reference[]): void {
  const tag = element.tagName.toLowerCase()
  for (const attr of element.attrs) {
    if (!mayRefer(attr.name)) continue
    const name = attr.prefix ? `${attr.prefix}:${attr.name}` : attr.name
    const as = readAs(tag, name, element)
    if (as === null) continue
    const range = attr.at && attributeValueRange(html, attr.at)
    if (!range) continue
    const holder = `${tag} ${name}`
    // A character reference is always longer than what it stands for.
    const isLiteral = attr.value.length === range.end - range.start
    // What nearly all of them are, without any detour.
    if (as === 'url' && isLiteral && !scriptAddress.test(attr.value)) {
      const href = attr.value.trim()
      const start = range.start + attr.value.length - attr.value.trimStart().length
      const syntax = range.quoted ? 'attribute' : 'unquoted-attribute'
      found.push({ start, end: start + href.length, href, syntax, holder })
      continue
    }
    const value = isLiteral ? literalText(attr.value) : readAttributeText(html.slice(range.start, range.end))
    const inAttribute = range.quoted ? 'quoted' : 'unquoted'
    const at = (start: number, end: number) => ({
      start: range.start + value.sourceAt(start),
      end: range.start + value.sourceAt(end),
    })
    const script = as === 'url' ? scriptAddress.exec(value.text) : null
    if (as === 'url' && !script) {
      const href = value.text.trim()
      const lead = value.text.length - value.text.trimStart().length
      found.push({
        ...at(lead, lead + href.length),
        href: attr.value.trim(),
        syntax: range.quoted ? 'attribute' : 'unquoted-attribute',
        holder,
      })
      continue
    }
    // Where the two readings differ (a line break of another kind), no place in it is sure.
    if (value.text !== attr.value) continue
    const skipped = script?.[0].length ?? 0
    // What is percent-encoded is another script than the one that is read.
    if (script && value.text.includes('%')) continue
    for (const { start, end, ...rest } of referencesInValue(
      value.text.slice(skipped),
      as === 'url' ? 'script' : as,
      holder,
    ))
      found.push({
        ...rest,
        ...at(skipped + start, skipped + end),
        ...(rest.syntax === 'attribute'
          ? { syntax: range.quoted ? 'attribute' : 'unquoted-attribute' }
          : { inAttribute }),
      })
  }
}

/** Scripts by what `type` says of them (HTML §4.12.1.1); null for what no browser runs or reads. */
function referencesInScript({ attrs }: HtmlElement, text: string): Reference[] {
  const type =
    attrs
      .find(({ name }) => name === 'type')
      ?.value.trim()
      .toLowerCase() ?? ''
  if (/^(module|(text|application)\/(x-)?(java|ecma|j|live)script[\d.]*|)$/.test(type))
    return findScriptReferences(text)
  return /json$|^importmap$|^speculationrules$/.test(type) ? findDataReferences(text) : []
}

/** What an element refers to: by its attributes, and a style sheet or a script within it. */
export function referencesOf(html: string, element: HtmlElement, found: Reference[]): void {
  elementReferences(html, element, found)
  const { tagName } = element
  if (tagName === 'style' || tagName === 'script' || isShownInstead(tagName))
    innerReferences(html, element, found)
}

/** Elements that are shown where no program runs, or no frames are: what is text to others is HTML there (HTML §4.12.2). */
const isShownInstead = (tagName: string): boolean => tagName === 'noscript' || tagName === 'noframes'

function innerReferences(html: string, element: HtmlElement, found: Reference[]): void {
  const inner = element.childNodes[0]
  if (inner?.nodeName !== '#text' || !inner.sourceCodeLocation) return
  const { startOffset: offset, endOffset } = inner.sourceCodeLocation
  const text = html.slice(offset, endOffset)
  for (const reference of referencesWithin(element, text))
    found.push({ ...reference, start: reference.start + offset, end: reference.end + offset })
}

/** References in the text of an element that holds no elements for a browser. */
function referencesWithin(element: HtmlElement, text: string): readonly Reference[] {
  if (element.tagName === 'script') return referencesInScript(element, text)
  if (element.tagName === 'style') return findCssReferences(text)
  // One within another is none: there are only as many readings as a text has such elements.
  return text.includes('<') ? referencesOfTree(text, parsePiece(text), false) : []
}

/** Adds those of tags that made no element, where they stand. */
export function withAdded(html: string, added: readonly HtmlElement[], found: Reference[]): void {
  if (added.length === 0) return
  for (const one of added) elementReferences(html, one, found)
  found.sort((a, b) => a.start - b.start)
}

/** The references of a whole document and nothing else: for a text that is read once and not kept. */
export function referencesIn(html: string): Reference[] {
  return referencesOfTree(html, parsePlaces(html))
}

function referencesOfTree(
  html: string,
  { root, added }: Pick<ParsedHtml, 'root' | 'added'>,
  readsInstead = true,
): Reference[] {
  const found: Reference[] = []
  const isSeen = seenOnce()
  walkHtml(root, (node) => {
    if (!('tagName' in node) || isSeen(node)) return
    if (readsInstead || !isShownInstead(node.tagName)) referencesOf(html, node, found)
  })
  withAdded(html, added, found)
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
