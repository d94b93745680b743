import { languageTag } from '#core/language'
import { attributeValueRange, type HtmlElement, type Lines, type PlacedRange, type Range } from '#core/markup'
import type { GeneratedPart } from './parts'

/** Something that is written like the template language and that it does not know: it goes out as it is. */
export interface Unknown extends PlacedRange {
  readonly kind: 'value' | 'part' | 'attribute' | 'attribute value'
  readonly name: string
  /** What is known there. */
  readonly known: readonly string[]
  /** Where the name is written again: in a part's end tag. */
  readonly again?: Range
}

/** Attributes of every element (HTML §3.2.6), which pass on to a part's `nav`. */
const globalAttributes =
  /^(accesskey|aria-.*|autocapitalize|autofocus|class|contenteditable|data-.*|dir|draggable|enterkeyhint|hidden|id|inert|inputmode|is|item(id|prop|ref|scope|type)|lang|nonce|on.*|popover|role|slot|spellcheck|style|tabindex|title|translate)$/

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
  for (const { name, value, at: where } of element.attrs) {
    if (!where) continue
    const attribute = part.attributes.find((one) => one.name === name)
    if (!attribute) {
      if (globalAttributes.test(name)) continue
      const { startOffset: start } = where
      const known = part.attributes.map((one) => one.name)
      add('attribute', name, known, { start, end: start + name.length })
      continue
    }
    const range = attributeValueRange(source, where)
    const isKnown =
      attribute.values.includes(value) ||
      (attribute.isNumber && /^[1-9]\d*$/.test(value)) ||
      (attribute.isLanguages && value.split(/\s+/).every((tag) => languageTag.test(tag)))
    if (range && !isKnown) add('attribute value', value, attribute.values, range)
  }
  return unknown
}
