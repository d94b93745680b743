import {
  applyEdits,
  type HtmlFacts,
  indentEdits,
  indentUnit,
  leadInUnits,
  type Range,
  type TextEdit,
  trimmedRange,
} from '#core/markup'
import { unitOf } from './compose'
import type { SiteContext } from './context'
import { outputReference } from './output-reference'

/** What a page puts into a slot, already read. */
export interface SlotContent {
  readonly text: string
  readonly facts: HtmlFacts
}

/** A content for the place where it will stand: references written for it, lines indented, all in one pass. */
export function placeContent(
  context: SiteContext,
  content: SlotContent,
  path: string,
  indent: string,
): string {
  const isAsWritten = context.site.output.indent === 'as-written' && content.facts.bases.length === 0
  return (
    (isAsWritten ? placeAsWritten(context, content, path, indent) : null) ??
    placeAnew(context, content, path, indent)
  )
}

/** By edits, in any order: for what is indented anew, or has stretches that are left out. */
function placeAnew(context: SiteContext, { text, facts }: SlotContent, path: string, indent: string): string {
  const range = trimmedRange(text)
  const { output } = context.site
  const edits: TextEdit[] = []
  if (output.indent !== 'as-written') {
    const own = leadInUnits(indentUnit(text, facts.fixed), unitOf(output, text, facts.fixed))
    edits.push(...indentEdits(text, range, facts.fixed, (lead) => indent + own(lead)))
  } else if (indent !== '') edits.push(...indentEdits(text, range, facts.fixed, (lead) => indent + lead))
  for (const reference of facts.references) {
    const text = outputReference(context, reference, path)
    if (text !== null) edits.push({ start: reference.start, end: reference.end, text })
  }
  const cuts: readonly Range[] = [
    { start: 0, end: range.start },
    ...facts.bases,
    { start: range.end, end: text.length },
  ]
  const isCut = ({ start, end }: Range) => cuts.some((cut) => cut.start < end && start < cut.end)
  return applyEdits(text, [
    ...(facts.bases.length > 0 ? edits.filter((edit) => !isCut(edit)) : edits),
    ...cuts.map((cut) => ({ ...cut, text: '' })),
  ])
}

/**
 * The same for what nearly every text is, without a list of edits: it was a quarter of the time that a page
 * takes. Null where references do not stand in order.
 */
function placeAsWritten(
  context: SiteContext,
  { text, facts }: SlotContent,
  path: string,
  indent: string,
): string | null {
  const { start, end } = trimmedRange(text)
  const { references, fixed } = facts
  let out = ''
  /** What stands before it is written. */
  let at = start
  let next = 0
  let reach = -1
  /** The end of the line before the next one that is indented; -1 when there is none. */
  let newline = indent === '' ? -1 : text.indexOf('\n', start)
  if (newline >= end) newline = -1

  /** Indents the lines that begin before a place. */
  const linesUpTo = (place: number) => {
    while (newline >= 0 && newline < place) {
      const line = newline + 1
      while (next < fixed.length && fixed[next]!.start < line) reach = Math.max(reach, fixed[next++]!.end)
      newline = text.indexOf('\n', line)
      if (newline >= end) newline = -1
      if (line <= reach || line < at) continue
      const lineEnd = newline < 0 ? end : newline
      let words = line
      for (let code = text.charCodeAt(words); words < lineEnd && (code === 32 || code === 9 || code === 13);)
        code = text.charCodeAt(++words)
      if (words < lineEnd) {
        out += text.slice(at, line) + indent
        at = line
      } else if (words > line) {
        out += text.slice(at, line)
        at = words
      }
    }
  }
  for (const reference of references) {
    linesUpTo(reference.start)
    if (reference.start < at || reference.end > end) return null
    const written = outputReference(context, reference, path)
    if (written === null) continue
    out += text.slice(at, reference.start) + written
    at = reference.end
  }
  linesUpTo(end)
  return out + text.slice(at, end)
}
