import {
  type HtmlFacts,
  indentEdits,
  indentUnit,
  leadInUnits,
  type Range,
  type Reference,
  trimmedRange,
} from '#core/markup'
import type { Output } from '#core/site'
import { unitOf } from './compose'
import { flat, type SiteContext } from './context'
import { outputReference, type PlannedReference, planReference } from './output-reference'

/** What a page puts into a slot, already read. */
export interface SlotContent {
  readonly text: string
  readonly facts: HtmlFacts
  /** Whether it is placed this once: nothing of it is kept for the next time. */
  readonly isOnce?: boolean
}

/** A content as it stands at one indentation, with its references left open. */
interface PlacedContent {
  readonly key: string
  /** What stands before, between and after the references. */
  readonly texts: readonly string[]
  readonly references: readonly PlannedReference[]
  /** The references as they are written. */
  readonly written: readonly string[]
}

/**
 * Contents that were placed lately, by what was read of them: a page is made again far more often than its text
 * changes. What is kept holds the texts, so that their letters are counted, and all are let go at the limit.
 */
const placed = new Map<HtmlFacts, PlacedContent>()
const mostLetters = 40_000_000
/** Letters that a reference, and what is kept of it, stands for. */
const lettersOfReference = 60
let lettersPlaced = 0

/**
 * A content for the place where it will stand: references written for it, lines indented.
 * @param pieces gets it in pieces, in order
 */
export function placeContent(
  context: SiteContext,
  content: SlotContent,
  path: string,
  indent: string,
  pieces: string[],
): void {
  const { texts, references, written } = placedContent(content, indent, context.site.output)
  pieces.push(texts[0]!)
  for (let index = 0; index < references.length; index++)
    pieces.push(outputReference(context, references[index]!, path) ?? written[index]!, texts[index + 1]!)
}

function placedContent(content: SlotContent, indent: string, output: Output): PlacedContent {
  const { text, facts } = content
  const key = `${output.indent} ${indent}`
  const known = placed.get(facts)
  if (known?.key === key) return known
  const made = place(content, key, indent, output)
  const letters = text.length + lettersOfReference * facts.references.length
  if (content.isOnce || letters > mostLetters / 4) return made
  if (!known) {
    lettersPlaced += letters
    if (lettersPlaced > mostLetters) {
      placed.clear()
      lettersPlaced = letters
    }
  }
  placed.set(facts, made)
  return made
}

/** What is done to a content whatever page it stands on, in order. */
function edits({ text, facts }: SlotContent, indent: string, output: Output) {
  const range = trimmedRange(text)
  const cuts: readonly Range[] = [
    { start: 0, end: range.start },
    ...facts.bases,
    { start: range.end, end: text.length },
  ]
  const lines = () => {
    if (output.indent !== 'as-written') {
      const own = leadInUnits(indentUnit(text, facts.fixed), unitOf(output, text, facts.fixed))
      return indentEdits(text, range, facts.fixed, (lead) => indent + own(lead))
    }
    return indent === '' ? [] : indentEdits(text, range, facts.fixed, (lead) => indent + lead)
  }
  const isCut = ({ start, end }: Range) => cuts.some((cut) => cut.start < end && start < cut.end)
  // Only a base address stands where something else may be done.
  const all = [
    ...(facts.bases.length > 0 ? lines().filter((edit) => !isCut(edit)) : lines()),
    ...cuts.map(({ start, end }) => ({ start, end, text: '' })),
  ]
  const references = facts.references.filter((one) => !isCut(one))
  return {
    all: all.sort(byStart),
    references: isInOrder(references) ? references : [...references].sort(byStart),
  }
}

const byStart = (a: Range, b: Range) => a.start - b.start
const isInOrder = (ranges: readonly Range[]) =>
  ranges.every((one, index) => index === 0 || ranges[index - 1]!.start <= one.start)

function place(content: SlotContent, key: string, indent: string, output: Output): PlacedContent {
  const { text } = content
  const { all, references } = edits(content, indent, output)
  const texts: string[] = []
  const kept: Reference[] = []
  let piece = ''
  let at = 0
  let next = 0
  const editUpTo = (end: number) => {
    for (let edit = all[next]; edit && edit.start < end; edit = all[++next]) {
      if (edit.start < at) throw new RangeError(`Edits overlap at ${edit.start}`)
      piece += text.slice(at, edit.start) + edit.text
      at = edit.end
    }
  }
  for (const reference of references) {
    editUpTo(reference.start)
    // One that stands in another is written with it.
    if (reference.start < at) continue
    texts.push(flat(piece + text.slice(at, reference.start)))
    kept.push(reference)
    piece = ''
    at = reference.end
  }
  editUpTo(text.length + 1)
  texts.push(flat(piece + text.slice(at)))
  return {
    key,
    texts,
    references: kept.map(planReference),
    written: kept.map(({ start, end }) => text.slice(start, end)),
  }
}
