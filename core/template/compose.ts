import {
  commonLead,
  type HtmlNode,
  indentEdits,
  indentUnit,
  leadInUnits,
  parseHtml,
  type Range,
  readHtml,
  type TextEdit,
  trimmedRange,
  walkHtml,
  leadAt,
} from '#core/markup'
import { mainSlot, mostBases, type Output, type Template, type TextOf } from '#core/site'

/** A stretch of a composed template that was written in one place of one template. */
export interface Piece {
  /** Where it stands in the composed text; it goes on to the next piece. */
  readonly start: number
  readonly templateId: string
  /** Where it stands in that template's own source. */
  readonly offset: number
}

/** A template with all that it is based on, as one text. */
export interface Composed {
  readonly text: string
  readonly pieces: readonly Piece[]
}

/** Letters of one composed template: slots that stand several times are filled as often. */
export const mostComposed = 1_000_000

/** What a template that is based on another puts into one of its slots. */
interface Fill extends Range {
  readonly slot: string
}

/**
 * What fills the slots of the template below: the insides of its `<template slot="…">` elements. Without
 * any, all of it is for the slot `content`.
 */
export function fillsOf(source: string): Fill[] {
  const fills: Fill[] = []
  const { root } = parseHtml(source, false)
  walkHtml(root, (node) => {
    if (!('tagName' in node) || node.tagName !== 'template') return
    const slot = node.attrs.find((attr) => attr.name === 'slot')
    const where = node.sourceCodeLocation
    if (!slot || !where?.startTag) return
    const [start, end] = [where.startTag.endOffset, where.endTag?.startOffset ?? where.endOffset]
    // One inside another is part of what the outer one fills in.
    if (start >= (fills[fills.length - 1]?.end ?? 0)) fills.push({ slot: slot.value || mainSlot, start, end })
  })
  return fills.length > 0 ? fills : [{ slot: mainSlot, start: 0, end: source.length }]
}

/** What of a text that fills slots stands beside what fills them, but for space and comments: it is lost. */
export function outsideFills(source: string): Range[] {
  const { root } = parseHtml(source, false)
  const top = ('childNodes' in root ? root.childNodes : []) as HtmlNode[]
  const isFill = (node: HtmlNode) =>
    'tagName' in node && node.tagName === 'template' && node.attrs.some(({ name }) => name === 'slot')
  if (!top.some(isFill)) return []
  return top.flatMap((node) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where || isFill(node) || node.nodeName === '#comment') return []
    const { startOffset: start, endOffset } = where
    const end = 'tagName' in node ? (node.sourceCodeLocation?.startTag?.endOffset ?? endOffset) : endOffset
    const text = source.slice(start, end)
    const lead = text.length - text.trimStart().length
    return text.trim() === '' ? [] : [{ start: start + lead, end: start + text.trimEnd().length }]
  })
}

/** Where the slots of a text stand, outermost ones, in order. */
function slotsIn(source: string): Fill[] {
  const slots: Fill[] = []
  const { root } = parseHtml(source, true)
  walkHtml(root, (node) => {
    if (!('tagName' in node) || node.tagName !== 'slot' || !node.sourceCodeLocation) return
    const { startOffset: start, endOffset, startTag, endTag } = node.sourceCodeLocation
    const end = endTag ? endOffset : (startTag?.endOffset ?? endOffset)
    if (start < (slots[slots.length - 1]?.end ?? 0)) return
    slots.push({ slot: node.attrs.find((attr) => attr.name === 'name')?.value || mainSlot, start, end })
  })
  return slots
}

/** A text put together from stretches of others. */
class Assembly {
  #text: string[] = []
  #length = 0
  readonly pieces: Piece[] = []

  get length(): number {
    return this.#length
  }

  add(text: string, templateId: string, offset: number): void {
    if (text === '') return
    this.pieces.push({ start: this.#length, templateId, offset })
    this.#text.push(text)
    this.#length += text.length
  }

  /** A stretch of a composed text, with where each part of it came from. */
  addFrom({ text, pieces }: Composed, from: number, to: number): void {
    for (let at = pieceAt(pieces, from); at < pieces.length && pieces[at]!.start < to; at++) {
      const piece = pieces[at]!
      const start = Math.max(from, piece.start)
      const end = Math.min(to, pieces[at + 1]?.start ?? text.length)
      this.add(text.slice(start, end), piece.templateId, piece.offset + (start - piece.start))
    }
  }

  end = (): Composed => ({ text: this.#text.join(''), pieces: this.pieces })
}

/** Which piece a place of a composed text belongs to. */
export function pieceAt(pieces: readonly Piece[], place: number): number {
  let [low, high] = [0, pieces.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (pieces[middle]!.start <= place) low = middle
    else high = middle - 1
  }
  return Math.max(0, low)
}

/** Some edits of a composed text; what they put in belongs to what stands there. */
function edited(composed: Composed, edits: readonly TextEdit[]): Composed {
  if (edits.length === 0) return composed
  const assembly = new Assembly()
  let at = 0
  for (const edit of [...edits].sort((a, b) => a.start - b.start)) {
    assembly.addFrom(composed, at, edit.start)
    const { templateId, offset, start } = composed.pieces[pieceAt(composed.pieces, edit.start)]!
    assembly.add(edit.text, templateId, offset + (edit.start - start))
    at = edit.end
  }
  assembly.addFrom(composed, at, composed.text.length)
  return assembly.end()
}

const units = { '2': '  ', '4': '    ', tab: '\t' } as const

/** One level of indentation, for a text as it is written. */
export const unitOf = (output: Output, text: string, fixed: readonly Range[]): string =>
  output.indent === 'as-written' ? indentUnit(text, fixed) : units[output.indent]

/** `\n` line ends and exactly one final newline. */
export const normalise = (source: string): string => source.replace(/\r\n?/g, '\n').trimEnd() + '\n'

/**
 * A template with the slots of what it is based on filled, in one level of indentation; null where that
 * multiplies to more than a template may be.
 */
export function composeTemplate(
  template: Template,
  templates: ReadonlyMap<string, Template>,
  textOf: TextOf,
  output: Output,
): Composed | null {
  const chain: Template[] = []
  for (let at: Template | undefined = template; at && chain.length <= mostBases;) {
    chain.push(at)
    at = at.basedOn === null ? undefined : templates.get(at.basedOn)
  }
  const own = ({ id, source }: Template): Composed => ({
    text: normalise(textOf(source)),
    pieces: [{ start: 0, templateId: id, offset: 0 }],
  })
  let composed = own(chain.pop()!)
  for (const next of chain.reverse()) {
    const filled = fill(composed, own(next))
    if (!filled) return null
    composed = filled
  }
  if (output.indent === 'as-written') return composed
  const { fixed } = readHtml(composed.text, true)
  const lead = leadInUnits(indentUnit(composed.text, fixed), units[output.indent])
  const whole = { start: 0, end: composed.text.length }
  return edited(composed, indentEdits(composed.text, whole, fixed, lead))
}

/** Fills the slots of one composed text with what another text holds for them. */
function fill(base: Composed, filling: Composed): Composed | null {
  const fills = new Map<string, Fill[]>()
  for (const one of fillsOf(filling.text)) fills.set(one.slot, [...(fills.get(one.slot) ?? []), one])
  const assembly = new Assembly()
  let at = 0
  for (const slot of slotsIn(base.text)) {
    const found = fills.get(slot.slot)
    if (!found) continue
    assembly.addFrom(base, at, slot.start)
    const lead = leadAt(base.text, slot.start)
    for (const [index, one] of found.entries()) {
      if (index > 0) assembly.add(`\n${lead}`, filling.pieces[0]!.templateId, one.start)
      addFill(assembly, filling, one, lead)
    }
    at = slot.end
    if (assembly.length > mostComposed) return null
  }
  assembly.addFrom(base, at, base.text.length)
  return assembly.length > mostComposed ? null : assembly.end()
}

/** What fills a slot, as if it had been written there: its own indentation gives way to the slot's. */
function addFill(assembly: Assembly, filling: Composed, { start, end }: Fill, lead: string): void {
  const inner = filling.text.slice(start, end)
  const { fixed } = readHtml(inner)
  const range = trimmedRange(inner)
  const common = commonLead(inner, range, fixed)
  const edits = indentEdits(inner, range, fixed, (was) => lead + was.slice(common.length))
  const { templateId, offset } = filling.pieces[pieceAt(filling.pieces, start)]!
  let at = range.start + (inner.startsWith(common, range.start) ? common.length : 0)
  for (const edit of edits) {
    assembly.add(inner.slice(at, edit.start), templateId, offset + start + at)
    assembly.add(edit.text, templateId, offset + start + edit.start)
    at = edit.end
  }
  assembly.add(inner.slice(at, range.end), templateId, offset + start + at)
}
