import {
  applyEdits,
  attributePlace,
  escapeAttribute,
  type HtmlElement,
  indentUnit,
  isElement,
  Lines,
  parseHtml,
  type Range,
  readHtml,
  type TextEdit,
  walkHtml,
  leadAt,
} from '#core/markup'
import { mainSlot } from '#core/site'
import { compileTemplate } from '../compile'
import { givesOutWhole } from '../gives-whole'
import { type Attributes, type GeneratedPart, parts } from '../parts'
import { patternPart } from '../pattern'
import { inLanguage } from '../wording/in-language'
import { lineOf } from './own-line'

/** A generated part as a template's source has it. */
export interface WrittenPart extends Range {
  readonly part: GeneratedPart
  readonly attributes: Attributes
  /** Whether its author writes how its entries are. */
  readonly isPattern: boolean
  /** 1-based. */
  readonly line: number
}

/** Elements of a source that are written there, in its order: a table puts some in front of itself (HTML §13.2.6.1). */
function elementsOf(source: string): HtmlElement[] {
  const elements: HtmlElement[] = []
  walkHtml(parseHtml(source, true).root, (node) => {
    if ('tagName' in node && node.sourceCodeLocation?.startTag) elements.push(node)
  })
  const startOf = ({ sourceCodeLocation: where }: HtmlElement) => where!.startOffset
  return elements.sort((a, b) => startOf(a) - startOf(b))
}

const partOf = (element: HtmlElement): GeneratedPart | undefined => {
  const called = patternPart(element) ?? element.tagName
  return parts.find(({ name }) => name === called)
}

/** Its tags with what stands between them; of one without an end tag its start tag. */
function rangeOf({ sourceCodeLocation: where }: HtmlElement): Range {
  const { startOffset: start, startTag, endTag, endOffset } = where!
  return { start, end: endTag ? endOffset : startTag!.endOffset }
}

/** The generated parts of a template's own source, in order. Never fails. */
export function writtenParts(source: string): WrittenPart[] {
  const lines = new Lines(source)
  return elementsOf(source).flatMap((element) => {
    const part = partOf(element)
    if (!part) return []
    const range = rangeOf(element)
    const attributes = Object.fromEntries(element.attrs.map(({ name, value }) => [name, value]))
    const isPattern = patternPart(element) !== null
    return [{ part, attributes, isPattern, ...range, line: lines.placeOf(range.start).line }]
  })
}

/**
 * A source in which a part says some attributes otherwise; null takes one out. All else stays as it is, to the letter.
 * @param nth which of its parts
 */
export function setPartAttributes(
  source: string,
  nth: number,
  values: Readonly<Record<string, string | null>>,
): string {
  const element = elementsOf(source).filter(partOf)[nth]
  if (!element) return source
  const { startOffset } = element.sourceCodeLocation!
  const edits: TextEdit[] = []
  let last = startOffset + 1 + element.tagName.length
  for (const { at } of element.attrs) if (at) last = Math.max(last, at.endOffset)
  let added = ''
  for (const [name, value] of Object.entries(values)) {
    const at = attributePlace(element, name)
    const text = value === null ? '' : `${name}="${escapeAttribute(value)}"`
    if (!at) added += text && ` ${text}`
    else {
      const start = text === '' ? source.slice(0, at.startOffset).trimEnd().length : at.startOffset
      edits.push({ start, end: at.endOffset, text })
    }
  }
  return applyEdits(source, added === '' ? edits : [...edits, { start: last, end: last, text: added }])
}

/** A source without one of its parts, and without its line where nothing else stands on it. */
export function removePart(source: string, nth: number): string {
  const part = writtenParts(source)[nth]
  return part ? applyEdits(source, [{ ...lineOf(source, part), text: '' }]) : source
}

/** What can be put into a template. */
export const partKinds = ['menu', 'section', 'trail', 'below', 'latest', 'neighbours', 'languages'] as const
export type PartKind = (typeof partKinds)[number]

/** Where something is put: in an element, at its beginning or end; or beside one. */
type Place = readonly ['first' | 'last' | 'before' | 'after', HtmlElement | undefined]

/** How each is written, and where it can stand, the best place first. */
const kinds: Readonly<
  Record<
    PartKind,
    (
      found: (tag: string) => HtmlElement | undefined,
      slot: HtmlElement | undefined,
    ) => readonly [string, ...Place[]]
  >
> = {
  menu: (found, slot) =>
    found('site-menu')
      ? // A second one is what a page ends with, as wide as its text.
        ['<site-menu levels="1" between=" | " as="nav" aria-label="Main, again"></site-menu>', ['first', found('footer')], ['last', found('body')], ['after', slot]] // prettier-ignore
      : ['<site-menu levels="1" aria-label="Main"></site-menu>', ['last', found('header')], ['before', found('main')], ['first', found('body')], ['before', slot]], // prettier-ignore
  section: (found, slot) => [
    '<site-menu of="section" levels="2" class="section-menu" aria-label="In this section"></site-menu>',
    ['before', found('main')],
    ['before', slot],
    ['first', found('body')],
  ],
  trail: (found, slot) => [
    '<site-trail aria-label="You are here"></site-trail>',
    ['first', found('main')],
    ['before', slot],
    ['first', found('body')],
  ],
  below: (found, slot) => [
    '<page-children levels="1" aria-label="In this section"></page-children>',
    ['after', slot],
    ['last', found('main')],
    ['last', found('body')],
  ],
  latest: (found, slot) => [
    '<page-latest aria-label="Latest"></page-latest>',
    ['last', found('aside')],
    ['after', slot],
    ['last', found('main')],
    ['last', found('body')],
  ],
  neighbours: (found, slot) => [
    '<page-neighbours aria-label="Before and after"></page-neighbours>',
    ['last', found('main')],
    ['after', slot],
    ['last', found('body')],
  ],
  languages: (found, slot) => [
    '<page-languages missing="above" aria-label="Languages"></page-languages>',
    ['after', found('site-menu')],
    ['first', found('header')],
    ['first', found('body')],
    ['before', slot],
  ],
}

/** An element, or the paragraph that it stands in: that holds no list, and nothing around one (HTML §4.4.1). */
function outOfParagraph(element: HtmlElement): HtmlElement {
  let out = element
  for (let around = element.parentNode; around && isElement(around); around = around.parentNode)
    if (around.tagName === 'p') out = around
  return out
}

/** What puts some HTML on a line of its own at a place; null where the place is not written out. */
function putAt(source: string, [where, beside]: Place, html: string): TextEdit | null {
  const element = beside && /^(before|after)$/.test(where) ? outOfParagraph(beside) : beside
  const location = element?.sourceCodeLocation
  if (!location?.startTag || !location.endTag) return null
  const lead = leadAt(source, location.startOffset)
  const at = (start: number, text: string): TextEdit => ({ start, end: start, text })
  if (where === 'before') return at(location.startOffset, `${html}\n${lead}`)
  if (where === 'after') return at(location.endOffset, `\n${lead}${html}`)
  const [from, to] = [location.startTag.endOffset, location.endTag.startOffset]
  const first = element!.childNodes.find((node) => 'tagName' in node && node.sourceCodeLocation)
  const firstAt = first && 'sourceCodeLocation' in first ? first.sourceCodeLocation!.startOffset : null
  const unit = indentUnit(source, readHtml(source, true).fixed)
  const isOnOwnLine = firstAt !== null && source.slice(from, firstAt).includes('\n')
  const inner = isOnOwnLine ? leadAt(source, firstAt) : lead + unit
  const inside = source.slice(from, to)
  if (where === 'first') return at(from, `\n${inner}${html}${inside.includes('\n') ? '' : `\n${lead}`}`)
  const end = from + inside.trimEnd().length
  return at(end, `\n${inner}${html}${source.slice(end, to).includes('\n') ? '' : `\n${lead}`}`)
}

/**
 * The edit that puts a part into a template where it belongs; null in one that only shows pages whole, in front of which nothing
 * can stand.
 * @param language what the words that it is called by are in
 */
export function partEdit(source: string, kind: PartKind, language: string): TextEdit | null {
  if (givesOutWhole(compileTemplate(source))) return null
  const elements = elementsOf(source)
  const found = (tag: string) =>
    elements.find(({ tagName, sourceCodeLocation: where }) => tagName === tag && where?.endTag)
  const slot = elements.find(
    ({ tagName, attrs }) =>
      tagName === 'slot' && (attrs.find(({ name }) => name === 'name')?.value || mainSlot) === mainSlot,
  )
  const [html, ...places] = kinds[kind](found, slot)
  const said = inLanguage(html, language)
  // What stands beside what fills a slot is lost.
  for (const place of [...places, ['last', found('template')] as const]) {
    const edit = putAt(source, place, said)
    if (edit) return edit
  }
  const end = source.trimEnd().length
  return { start: end, end, text: `${end === 0 ? '' : '\n'}${said}` }
}
