import { languageTag } from '#core/language'
import {
  attributePlace,
  attributeValueRange,
  type HtmlElement,
  type Lines,
  type PlacedRange,
  type Range,
} from '#core/markup'
import { elementsOf } from './look'
import { patternPart, whichEntries, whichIn } from './pattern'
import { type GeneratedPart, lookAttributes, type PartAttribute } from './parts'

/** Something that is written like the template language and that it does not know: it goes out as it is. */
export interface Unknown extends PlacedRange {
  readonly kind: 'value' | 'part' | 'attribute' | 'attribute value' | 'attribute of a line' | 'within entries'
  readonly name: string
  /** What is known there. */
  readonly known: readonly string[]
  /** Where the name is written again: in a part's end tag. */
  readonly again?: Range
}

/** Attributes of every element (HTML §3.2.6), which pass on to a part's `nav`. */
const globalAttributes =
  /^(accesskey|aria-.*|autocapitalize|autofocus|class|contenteditable|data-.*|dir|draggable|enterkeyhint|hidden|id|inert|inputmode|is|item(id|prop|ref|scope|type)|lang|nonce|on.*|popover|role|slot|spellcheck|style|tabindex|title|translate)$/

/** What says that an element is a pattern. */
const ofPattern: PartAttribute = { name: 'part', values: [], isText: true }

/** What a pattern says of some entries that it does not know. */
export const unknownInPattern = (source: string, pattern: HtmlElement, lines: Lines): Unknown[] =>
  whichIn(pattern).flatMap((element): Unknown[] => {
    const where = attributePlace(element, 'which')
    const range = where && attributeValueRange(source, where)
    const name = range ? source.slice(range.start, range.end) : ''
    if (!range || (whichEntries as readonly string[]).includes(name)) return []
    const { start, end } = range
    return [{ kind: 'attribute value', name, known: whichEntries, start, end, ...lines.placeOf(start) }]
  })

const nameOf = (attributes: readonly PartAttribute[]) => attributes.map(({ name }) => name)

/** What a part's element says that it does not know. */
export function unknownAttributes(
  source: string,
  element: HtmlElement,
  part: GeneratedPart,
  lines: Lines,
): Unknown[] {
  const unknown: Unknown[] = []
  const add = (kind: Unknown['kind'], name: string, known: readonly string[], { start, end }: Range) =>
    void unknown.push({ kind, name, known, start, end, ...lines.placeOf(start) })
  const isPattern = patternPart(element) !== null
  // One that its author writes looks as that is written.
  const attributes = isPattern ? [...part.attributes, ofPattern] : [...part.attributes, ...lookAttributes]
  const says = (name: string) => element.attrs.some((one) => one.name === name)
  // A line of links that is no element has nothing that they could pass on to.
  const passesOn = !says('between') || says('as')
  for (const { name, value, at: where } of element.attrs) {
    if (!where) continue
    const attribute = attributes.find((one) => one.name === name)
    if (!attribute) {
      const { startOffset: start } = where
      const range = { start, end: start + name.length }
      if (isPattern || !globalAttributes.test(name)) add('attribute', name, nameOf(attributes), range)
      else if (!passesOn) add('attribute of a line', name, [], range)
      continue
    }
    const range = attributeValueRange(source, where)
    const isKnown =
      attribute.isText ||
      attribute.values.includes(value) ||
      (attribute.isNumber && /^[1-9]\d*$/.test(value)) ||
      (attribute.isLanguages && value.split(/\s+/).every((tag) => languageTag.test(tag)))
    // A paragraph holds no list (HTML §4.4.1), and a line is none.
    const values = name === 'as' ? elementsOf(says('between')) : attribute.values
    if (range && !(isKnown && (name !== 'as' || values.includes(value))))
      add('attribute value', value, values, range)
  }
  return unknown
}

/** Where the value of an attribute begins. */
export function attributeStart(source: string, element: HtmlElement, name: string): number {
  const place = attributePlace(element, name)
  return (place && attributeValueRange(source, place)?.start) ?? element.sourceCodeLocation!.startOffset
}
