import {
  attributeValueRange,
  commonLead,
  Lines,
  type HtmlElement,
  type HtmlNode,
  type HtmlFacts,
  indentEdits,
  indentUnit,
  parseHtml,
  type PlacedRange,
  type PlacedReference,
  type Range,
  readHtml,
  walkHtml,
} from '#core/markup'

import { outsideFills } from './compose'
import { type PlannedReference, planReference } from './output-reference'
import { type Attributes, type GeneratedPart, parts } from './parts'
import { type Unknown, unknownAttributes } from './unknown'
import {
  expression,
  isSlotValue,
  isTranslationValue,
  isValueName,
  type SlotValue,
  slotOfValue,
  type TranslationValue,
  translationValues,
  type ValueName,
  valueNames,
} from './value-names'

/** Generated parts that one template may have. */
export const mostParts = 100

/** Bytes that a value of a language takes, about: most of them are addresses. */
const roomForValue = 60

/** Where a part stands in its line: what is needed to drop or indent it as a person would. */
interface Placement {
  /** White space in front of the line the part starts on. */
  readonly indent: string
  /** True when nothing else stands on its lines; an empty result then takes the line away. */
  readonly alone: boolean
}

/** Where a value stands: what it has to be escaped for. */
export type ValueSyntax = 'text' | 'double-quoted' | 'single-quoted' | 'url'

/** A part, and where in the source it stands. */
export type Part = { readonly at: number } & Content

type Content =
  | { readonly kind: 'text'; readonly text: string }
  | ({ readonly kind: 'nothing' } & Placement)
  | { readonly kind: 'value'; readonly name: ValueName; readonly syntax: ValueSyntax }
  /** `text` is how it is written. */
  | { readonly kind: 'reference'; readonly planned: PlannedReference; readonly text: string }
  | ({ readonly kind: 'slot'; readonly name: string; readonly fallback: readonly Part[] } & Placement)
  | ({
      readonly kind: 'generated'
      readonly part: GeneratedPart
      readonly attributes: Attributes
      /** What is true of the whole template that it stands in. */
      readonly within: { readonly listsLanguages: boolean }
    } & Placement)
  /** A `meta` or `link` that is left out when all its expressions come out empty. */
  | ({
      readonly kind: 'optional'
      readonly needs: readonly ValueName[]
      readonly parts: readonly Part[]
    } & Placement)
  /** A `meta` or `link` that stands once for each language that the page is in, where it is in several. */
  | ({
      readonly kind: 'each'
      readonly needs: readonly TranslationValue[]
      readonly parts: readonly Part[]
    } & Placement)
  /** An attribute that is left out where the slot whose text it says is empty. */
  | { readonly kind: 'attribute'; readonly name: SlotValue; readonly parts: readonly Part[] }

/** A slot, and where its element begins. */
export interface PlacedSlot extends PlacedRange {
  readonly name: string
  /** Whether what a page holds there is taken as plain text. */
  readonly isValue?: true
}

/** A template ready to be filled, any number of times. */
export interface CompiledTemplate {
  readonly parts: readonly Part[]
  readonly references: readonly PlacedReference[]
  readonly unknown: readonly Unknown[]
  /** Its slots, in order. */
  readonly slots: readonly PlacedSlot[]
  /** What stands beside its `<template slot="…">` elements: nothing of it comes out where it fills slots. */
  readonly outside: readonly PlacedRange[]
  /** What reading its source yields besides. */
  readonly facts: HtmlFacts
  /** One level of its indentation. */
  readonly unit: string
  readonly generated: readonly Extract<Part, { kind: 'generated' }>[]
  /** Whether it leads to other languages: what else leads on then keeps to the page's own. */
  readonly listsLanguages: boolean
  /** Bytes of it, about, that stand once for each language that a page is in. */
  readonly perLanguage: number
}

interface Hole {
  /** Of holes that start at one place: quotes come before what they enclose. */
  readonly first?: true
  readonly start: number
  readonly end: number
  /** Taken apart again by `partsOf` over its own range, where it must not meet itself. */
  readonly optional?: true
  /** The optional one that it is a piece of: at the very end of that, where it would be one of what follows, too. */
  readonly pieceOf?: Range
  readonly make: () => Content
}

const compiled = new Map<string, CompiledTemplate>()

/**
 * Compiles a template's source; never fails, since any text is some HTML document.
 * @param known the generated parts it may have
 */
export function compileTemplate(source: string, known: readonly GeneratedPart[] = parts): CompiledTemplate {
  if (known !== parts) return compile(normalise(source), known)
  let template = compiled.get(source)
  if (!template) {
    template = compile(normalise(source), parts)
    // A handful of sources are in use at a time; older ones came from typing.
    if (compiled.size >= 32) compiled.clear()
    compiled.set(source, template)
  }
  return template
}

/** `\n` line ends and exactly one final newline. */
function normalise(source: string): string {
  return source.replace(/\r\n?/g, '\n').trimEnd() + '\n'
}

function compile(source: string, known: readonly GeneratedPart[]): CompiledTemplate {
  const partOf = (tag: string) => known.find(({ name }) => name === tag)
  const parsed = parseHtml(source, true)
  const { root } = parsed
  const read = readHtml(source, true, parsed)
  const { fixed } = read
  // One with a value in it leads nowhere before the value is known.
  const references = read.references.filter(({ start, end }) => !source.slice(start, end).includes('{'))
  const facts = { ...read, references }
  const lines = new Lines(source)
  const unknown: Unknown[] = []
  const slots: PlacedSlot[] = []
  const generated: Extract<Part, { kind: 'generated' }>[] = []
  let perLanguage = 0
  const within = { listsLanguages: false }

  const placementOf = (start: number, end: number): Placement => {
    const lineStart = source.lastIndexOf('\n', start - 1) + 1
    const before = source.slice(lineStart, start)
    const lineEnd = source.indexOf('\n', end)
    const after = source.slice(end, lineEnd < 0 ? undefined : lineEnd)
    return { indent: /^\s*/.exec(before)![0], alone: before.trim() === '' && after.trim() === '' }
  }

  const holes: Hole[] = []
  /** @param isEach whether it stands once for each language */
  const valueHoles = (start: number, end: number, syntax: ValueSyntax, isEach = false): ValueName[] => {
    const names: ValueName[] = []
    for (const match of source.slice(start, end).matchAll(expression)) {
      const name = match[1]!
      const at = start + match.index
      if (!isValueName(name) && !(isEach && isTranslationValue(name))) {
        const range = { start: at + 1, end: at + 1 + name.length }
        const known = isEach ? [...valueNames, ...translationValues] : valueNames
        unknown.push({ kind: 'value', name, known, ...range, ...lines.placeOf(range.start) })
        continue
      }
      names.push(name)
      const range = { start: at, end: at + match[0].length }
      if (isSlotValue(name))
        slots.push({ name: slotOfValue(name), isValue: true, ...range, ...lines.placeOf(at) })
      holes.push({ ...range, make: () => ({ kind: 'value', name, syntax }) })
    }
    return names
  }
  /** A stretch without the white space at its ends. */
  const trimmedWithin = (start: number, end: number): Range => {
    const text = source.slice(start, end)
    const lead = text.length - text.trimStart().length
    return lead === text.length
      ? { start, end: start }
      : { start: start + lead, end: start + text.trimEnd().length }
  }
  /** What stands in a slot for pages that have nothing stands where the slot does, without its tags. */
  const movedOut = (range: Range, indent: string): Hole[] => {
    const lines = { start: source.lastIndexOf('\n', range.start - 1) + 1, end: range.end }
    const common = commonLead(source, lines, fixed)
    return indentEdits(
      source,
      range,
      fixed,
      (lead) => indent + (lead.startsWith(common) ? lead.slice(common.length) : ''),
    ).map(({ start, end, text }) => ({ start, end, make: () => ({ kind: 'text', text }) }))
  }
  const inReference = rangesHold(read.references)
  const attributeHoles = (element: HtmlElement): ValueName[] =>
    element.attrs.flatMap(({ at: where }) => {
      const range = where && attributeValueRange(source, where)
      if (!range || !source.slice(range.start, range.end).includes('{')) return []
      const quote = range.quoted ? source[range.start - 1] : null
      const isUrl = inReference(range)
      const names = valueHoles(
        range.start,
        range.end,
        isUrl ? 'url' : quote === "'" ? 'single-quoted' : 'double-quoted',
        element.tagName === 'link' || element.tagName === 'meta',
      )
      const [only] = names
      const isOnly = only !== undefined && source.slice(range.start, range.end).trim() === `{${only}}`
      const { endOffset: end } = where
      const whole = { start: source.slice(0, where.startOffset).trimEnd().length, end }
      const isOptional = isOnly && isSlotValue(only)
      if (isOptional) {
        const make = () => ({ kind: 'attribute' as const, name: only, parts: partsOf(whole.start, end) })
        holes.push({ ...whole, optional: true, make })
      }
      // A value may hold spaces and signs that would end an attribute without quotes: it gets them.
      if (quote === null && names.length > 0)
        for (const at of [range.start, range.end]) {
          const make = () => ({ kind: 'text' as const, text: '"' })
          holes.push({ start: at, end: at, first: true, ...(isOptional && { pieceOf: whole }), make })
        }
      return names
    })

  walkHtml(root, (node: HtmlNode) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where) return
    if (node.nodeName === '#text') {
      const parent = 'parentNode' in node ? node.parentNode : null
      if (parent?.nodeName !== 'script' && parent?.nodeName !== 'style')
        valueHoles(where.startOffset, where.endOffset, 'text')
      return
    }
    if (!('tagName' in node)) return
    const location = node.sourceCodeLocation!
    const names = attributeHoles(node)
    const tag = node.tagName
    const generatedPart = partOf(tag)
    // Other elements with a hyphen are custom ones of a script's making, and none of ours.
    if (!generatedPart && /^(site|page)-/.test(tag)) {
      const start = location.startOffset + 1
      const again = location.endTag && location.endTag.startOffset + 2
      unknown.push({
        kind: 'part',
        name: tag,
        known: known.map(({ name }) => name),
        start,
        end: start + tag.length,
        ...lines.placeOf(start),
        ...(again !== undefined && { again: { start: again, end: again + tag.length } }),
      })
    } else if (generatedPart) unknown.push(...unknownAttributes(source, node, generatedPart, lines))
    // It would lead every reference elsewhere, and those are written for where each page stands.
    if (tag === 'base' && node.attrs.some((attr) => attr.name === 'href')) {
      const { startOffset: start, endOffset: end } = location
      holes.push({ start, end, make: () => ({ kind: 'nothing', ...placementOf(start, end) }) })
    } else if (tag === 'slot' || generatedPart) {
      const start = location.startOffset
      // Without an end tag the parser lets the element run on; what follows is not meant to vanish.
      const end = location.endTag ? location.endOffset : (location.startTag?.endOffset ?? location.endOffset)
      const attributes = Object.fromEntries(node.attrs.map((attr) => [attr.name, attr.value]))
      const placement = placementOf(start, end)
      if (!generatedPart) {
        const name = attributes.name || 'content'
        slots.push({ name, start, end, ...lines.placeOf(start) })
        const inner = location.endTag
          ? trimmedWithin(location.startTag!.endOffset, location.endTag.startOffset)
          : { start: end, end }
        holes.push(...movedOut(inner, placement.indent))
        holes.push({
          start,
          end,
          make: () => ({ kind: 'slot', name, fallback: partsOf(inner.start, inner.end), ...placement }),
        })
      } else {
        const part = {
          kind: 'generated' as const,
          at: start,
          part: generatedPart,
          attributes,
          within,
          ...placement,
        }
        within.listsLanguages ||= generatedPart.listsLanguages ?? false
        generated.push(part)
        // Those beyond what a template may have are told as a finding, and not made.
        const isMade = generated.length <= mostParts
        holes.push({ start, end, make: () => (isMade ? part : { kind: 'nothing', ...placement }) })
      }
    } else if ((tag === 'meta' || tag === 'link') && names.length > 0) {
      const { startOffset: start, endOffset: end } = location
      const each = names.filter(isTranslationValue)
      if (each.length > 0) perLanguage += end - start + names.length * roomForValue
      const make = () => {
        const inner = { parts: partsOf(start, end), ...placementOf(start, end) }
        return each.length > 0
          ? { kind: 'each' as const, needs: each, ...inner }
          : { kind: 'optional' as const, needs: names, ...inner }
      }
      holes.push({ start, end, optional: true, make })
    }
  })
  // As in a page whose head has a slot, after which no `body` begins.
  parsed.added.forEach(attributeHoles)
  for (const reference of references) {
    const { start, end } = reference
    const text = source.slice(start, end)
    holes.push({ start, end, make: () => ({ kind: 'reference', planned: planReference(reference), text }) })
  }
  // Outer holes before the ones inside them.
  holes.sort((a, b) => a.start - b.start || Number(b.first ?? 0) - Number(a.first ?? 0) || b.end - a.end)

  /** The first hole at or after a place. */
  function firstFrom(place: number): number {
    let [low, high] = [0, holes.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (holes[middle]!.start < place) low = middle + 1
      else high = middle
    }
    return low
  }

  function partsOf(start: number, end: number): Part[] {
    const parts: Part[] = []
    let at = start
    const text = (to: number) => {
      if (to > at) parts.push({ kind: 'text', at, text: source.slice(at, to) })
    }
    for (let index = firstFrom(start); index < holes.length; index++) {
      const hole = holes[index]!
      if (hole.start > end) break
      if (hole.start < at || hole.end > end) continue
      if (hole.optional && hole.start === start && hole.end === end) continue
      if (hole.pieceOf && (hole.pieceOf.start !== start || hole.pieceOf.end !== end)) continue
      text(hole.start)
      parts.push({ at: hole.start, ...hole.make() })
      at = hole.end
    }
    text(end)
    return parts
  }
  return {
    parts: partsOf(0, source.length),
    references,
    unknown,
    slots,
    generated,
    outside: outsideFills(source).map((range) => ({ ...range, ...lines.placeOf(range.start) })),
    facts,
    unit: indentUnit(source, fixed),
    listsLanguages: within.listsLanguages,
    perLanguage,
  }
}

/** Whether a range holds one of these, which do not overlap and are in order. */
function rangesHold(inner: readonly Range[]): (outer: Range) => boolean {
  const sorted = [...inner].sort((a, b) => a.start - b.start)
  return ({ start, end }) => {
    let [low, high] = [0, sorted.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (sorted[middle]!.start < start) low = middle + 1
      else high = middle
    }
    return low < sorted.length && sorted[low]!.end <= end
  }
}
