import {
  attributeValueRange,
  commonLead,
  Lines,
  type HtmlElement,
  type HtmlNode,
  indentEdits,
  indentUnit,
  isElement,
  leadAt,
  parseHtml,
  type Range,
  rangesHold,
  readHtml,
  walkHtml,
} from '#core/markup'

import { normalise, outsideFills } from './compose'
import type { CompiledTemplate, Part, Pattern, Placement, PlacedSlot, ValueSyntax } from './compiled'
import { type Hole, partsBetween } from './holes'
import { planReference } from './output-reference'
import { type GeneratedPart, parts } from './parts'
import {
  insideRange,
  type PatternRanges,
  patternPart,
  patternRanges,
  trimmedIn,
  type WhichEntries,
  whichEntries,
  whichIn,
} from './pattern'
import { attributeStart, type Unknown, unknownAttributes, unknownInPattern } from './unknown'
import {
  entryValues,
  expression,
  isEntryValue,
  isSlotValue,
  isTranslationValue,
  slotOfValue,
  translationValues,
  type ValueName,
  valueNames,
} from './value-names'

/** Generated parts that one template may have. */
export const mostParts = 100

/** Bytes that a value of a language takes, about: most of them are addresses. */
const roomForValue = 60

/** Values that what entries are written as may have: short ones, and those of entries, which are counted. */
const inPattern: readonly ValueName[] = [...entryValues, 'language', 'direction', 'year']

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
  /** What fills in how entries are written, once all that stands in there is known. */
  const patterns: (() => void)[] = []

  const placementOf = (start: number, end: number): Placement => {
    const lineStart = source.lastIndexOf('\n', start - 1) + 1
    const before = source.slice(lineStart, start)
    const lineEnd = source.indexOf('\n', end)
    const after = source.slice(end, lineEnd < 0 ? undefined : lineEnd)
    return { indent: /^\s*/.exec(before)![0], alone: before.trim() === '' && after.trim() === '' }
  }

  const holes: Hole[] = []
  /** The end of the pattern that is walked through: what stands in it is said of each entry. */
  let patternEnd = 0
  /** @param also values that there are at this place alone */
  const valueHoles = (
    start: number,
    end: number,
    syntax: ValueSyntax,
    also: readonly ValueName[] = [],
  ): ValueName[] => {
    // What a page says of itself may be long, and would stand there as often as there are entries.
    const known = start < patternEnd ? inPattern : [...valueNames, ...also]
    const isKnown = (name: string): name is ValueName =>
      (known as readonly string[]).includes(name) || (start >= patternEnd && isSlotValue(name))
    const names: ValueName[] = []
    for (const match of source.slice(start, end).matchAll(expression)) {
      const name = match[1]!
      const at = start + match.index
      if (!isKnown(name)) {
        const range = { start: at + 1, end: at + 1 + name.length }
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
  /** What stands in a slot for pages that have nothing stands where the slot does, without its tags. */
  const commonIn = (range: Range): string =>
    commonLead(source, { start: source.lastIndexOf('\n', range.start - 1) + 1, end: range.end }, fixed)
  const movedOut = (range: Range, indent: string, common = commonIn(range)): Hole[] => {
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
        element.tagName === 'link' || element.tagName === 'meta' ? translationValues : [],
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

  /** An element of a pattern that says one value of an entry and nothing else is left out where that says nothing. */
  const saysAlone = (element: HtmlElement, text: string, names: readonly ValueName[]) => {
    const [only] = names
    const { startTag, endTag, startOffset: start, endOffset: end } = element.sourceCodeLocation ?? {}
    if (only !== 'entry.description' || text.trim() !== '{entry.description}') return
    if (!startTag || !endTag || start === undefined || end === undefined || element.childNodes.length > 1)
      return
    const make = () => ({
      kind: 'optional' as const,
      needs: [only],
      parts: partsOf(start, end),
      ...placementOf(start, end),
    })
    holes.push({ start, end, optional: true, make })
  }

  /** A date is left out, with what says that it is one, where all that stands there is empty: no `time` can be (HTML §4.5.14). */
  const saysTime = ({ tagName, childNodes, sourceCodeLocation: where }: HtmlElement) => {
    if (tagName !== 'time' || childNodes.some(isElement) || !where?.startTag || !where.endTag) return
    const { startOffset: start, endOffset: end } = where
    const known: readonly ValueName[] = start < patternEnd ? inPattern : valueNames
    const within = (from: number, to: number) =>
      known.filter((name) => source.slice(from, to).includes(`{${name}}`))
    const { startTag, endTag } = where
    // What is read counts, and what programs read where nothing but that is said.
    const [read, told] = [within(startTag.endOffset, endTag.startOffset), within(start, startTag.endOffset)]
    const needs = read.length > 0 ? read : told
    if (needs.length === 0) return
    const make = () => ({ kind: 'optional' as const, needs, parts: partsOf(start, end), ...placementOf(start, end) }) // prettier-ignore
    holes.push({ start, end, optional: true, make })
  }

  walkHtml(root, (node: HtmlNode) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where) return
    if (node.nodeName === '#text') {
      const parent = 'parentNode' in node ? node.parentNode : null
      if (parent?.nodeName === 'script' || parent?.nodeName === 'style') return
      const names = valueHoles(where.startOffset, where.endOffset, 'text')
      const isIn = where.startOffset < patternEnd && parent && 'tagName' in parent
      if (isIn) saysAlone(parent, source.slice(where.startOffset, where.endOffset), names)
      return
    }
    if (!('tagName' in node)) return
    const location = node.sourceCodeLocation!
    const names = attributeHoles(node)
    saysTime(node)
    const named = patternPart(node)
    const tag = node.tagName
    const partName = named ?? tag
    const generatedPart = partOf(partName)
    // Other elements with a hyphen are custom ones of a script's making, and none of ours.
    if (!generatedPart && (named !== null || /^(site|page)-/.test(partName))) {
      const start = named === null ? location.startOffset + 1 : attributeStart(source, node, 'part')
      const again = named === null && location.endTag ? location.endTag.startOffset + 2 : undefined
      unknown.push({
        kind: 'part',
        name: partName,
        known: known.map(({ name }) => name),
        start,
        end: start + partName.length,
        ...lines.placeOf(start),
        ...(again !== undefined && { again: { start: again, end: again + partName.length } }),
      })
    } else if (generatedPart) {
      unknown.push(...unknownAttributes(source, node, generatedPart, lines))
      if (named !== null) unknown.push(...unknownInPattern(source, node, lines))
    }
    // It would lead every reference elsewhere, and those are written for where each page stands.
    if (tag === 'base' && node.attrs.some((attr) => attr.name === 'href')) {
      const { startOffset: start, endOffset: end } = location
      holes.push({ start, end, make: () => ({ kind: 'nothing', ...placementOf(start, end) }) })
    } else if ((tag === 'slot' || generatedPart) && location.startOffset < patternEnd) {
      // It would stand there as often as there are entries.
      const { startOffset: start, startTag, endTag, endOffset } = location
      const range = { start: start + 1, end: start + 1 + tag.length }
      unknown.push({ kind: 'within entries', name: tag, known: [], ...range, ...lines.placeOf(start) })
      const end = endTag ? endOffset : (startTag?.endOffset ?? endOffset)
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
          ? trimmedIn(source, location.startTag!.endOffset, location.endTag.startOffset)
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
          pattern: null as Pattern | null,
          within,
          ...placement,
        }
        if (named !== null) {
          patternEnd = Math.max(patternEnd, end)
          const ranges = patternRanges(source, node)
          const { at, each, before, after } = ranges
          const inner = insideRange(node)
          const common = inner ? commonIn(trimmedIn(source, inner.start, inner.end)) : ''
          // What stands around entries is as deep in as the part; they are deeper by as much as in the source.
          const around = before.length + after.length > 0
          const own = leadAt(source, at)
          const deep = placement.indent + (around && own.startsWith(common) ? own.slice(common.length) : '')
          for (const range of [...before, ...after]) holes.push(...movedOut(range, placement.indent, common))
          for (const range of [
            ...each,
            ...whichEntries.flatMap((one) => (one === 'each' ? [] : (ranges[one] ?? []))),
          ])
            holes.push(...movedOut(range, deep))
          for (const one of whichIn(node)) {
            const { startOffset, endOffset } = one.sourceCodeLocation!
            // What stands for some entries alone is no piece of what stands for the others.
            holes.push({ start: startOffset, end: endOffset, make: () => ({ kind: 'text', text: '' }) })
          }
          patterns.push(() => (part.pattern = patternOf(ranges, deep, source.slice(start, end))))
        }
        within.listsLanguages ||= generatedPart.listsLanguages ?? false
        generated.push(part)
        // Those beyond what a template may have are told as a finding, and not made.
        const isMade = generated.length <= mostParts
        holes.push({ start, end, make: () => (isMade ? part : { kind: 'nothing', ...placement }) })
      }
    } else if ((tag === 'meta' || tag === 'link') && names.length > 0 && location.startOffset >= patternEnd) {
      const { startOffset: start, endOffset: end } = location
      const each = names.filter(isTranslationValue)
      if (each.length > 0) perLanguage += end - start + names.length * roomForValue
      const make = () => {
        const inner = { parts: partsOf(start, end), ...placementOf(start, end) }
        return each.length > 0
          ? { kind: 'each' as const, needs: each, ...inner }
          : { kind: 'optional' as const, needs: saidBy(node, names), ...inner }
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
  const cut = partsBetween(source, holes)
  function partsOf(start: number, end: number): Part[] {
    return cut(start, end)
  }
  const partsIn = (ranges: readonly Range[]) => ranges.flatMap(({ start, end }) => partsOf(start, end))
  const patternOf = (ranges: PatternRanges, indent: string, text: string): Pattern => {
    const deepIn = (space: string) => (space.includes('\n') ? `\n${indent}` : space)
    const other = (which: Exclude<WhichEntries, 'each'>) => {
      const range = ranges[which]
      return range ? partsOf(range.start, range.end) : null
    }
    const pattern = {
      each: partsIn(ranges.each),
      own: other('own'),
      above: other('above'),
      between: other('between'),
      before: partsIn(ranges.before),
      after: partsIn(ranges.after),
    }
    const all = Object.values(pattern).flatMap((parts) => parts ?? [])
    return {
      ...pattern,
      first: deepIn(ranges.first),
      joint: deepIn(ranges.lead),
      isOfEntries: all.every(isOfEntry),
      source: text,
      describes: /\{entry\.(?:description|title)\}/.test(text),
      dates: /\{entry\.date(?:time)?\}/.test(text),
    }
  }
  for (const fill of patterns) fill()
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

/** The values of a `meta` or `link` that it is there for: without an address, or what it says, all else says nothing. */
function saidBy({ tagName, attrs }: HtmlElement, names: readonly ValueName[]): readonly ValueName[] {
  const said = attrs.find(({ name }) => name === (tagName === 'link' ? 'href' : 'content'))?.value ?? ''
  const own = names.filter((name) => said.includes(`{${name}}`))
  return own.length > 0 ? own : names
}

/** Whether a piece of a pattern says nothing but what its entry does. */
const isOfEntry = (part: Part): boolean =>
  part.kind === 'optional'
    ? part.parts.every(isOfEntry)
    : part.kind === 'value'
      ? isEntryValue(part.name)
      : part.kind === 'text' || part.kind === 'reference'
