import type { TextEdit } from './edits'

/** A stretch of a text. */
export interface Range {
  readonly start: number
  readonly end: number
}

interface Line extends Range {
  /** Where what is no space or tab begins; `end` on a line that holds nothing else. */
  readonly text: number
}

const blank = (code: number) => code === 32 || code === 9 || code === 13

/**
 * Lines of a stretch of a text whose white space at the front does not count, one by one.
 * @param fixed where white space is part of what is shown or run, sorted by where it starts
 */
function* freeLines(text: string, { start, end }: Range, fixed: readonly Range[]): Generator<Line> {
  let next = 0
  /** How far the stretches that begin before this line reach. */
  let reach = -1
  for (let line = start; ;) {
    while (next < fixed.length && fixed[next]!.start < line) reach = Math.max(reach, fixed[next++]!.end)
    const found = text.indexOf('\n', line)
    const lineEnd = found < 0 || found > end ? end : found
    if (line > reach) {
      let at = line
      while (at < lineEnd && blank(text.charCodeAt(at))) at++
      yield { start: line, end: lineEnd, text: at }
    }
    if (found < 0 || found + 1 > end) return
    line = found + 1
  }
}

/** What stands in front of each line, made of what stood there. */
export type Lead = (lead: string) => string

/**
 * What has to be done to a stretch of a text for its lines, but the first, to begin as `leadOf` says, except
 * where white space counts. Lines of white space only become empty. One pass.
 */
export function indentEdits(text: string, range: Range, fixed: readonly Range[], leadOf: Lead): TextEdit[] {
  const edits: TextEdit[] = []
  const { start, end } = range
  let next = 0
  let reach = -1
  // Written out, since every page that is made comes through here.
  for (let line = text.indexOf('\n', start) + 1; line > 0 && line <= end;) {
    while (next < fixed.length && fixed[next]!.start < line) reach = Math.max(reach, fixed[next++]!.end)
    const found = text.indexOf('\n', line)
    const lineEnd = found < 0 || found > end ? end : found
    if (line > reach) {
      let at = line
      while (at < lineEnd && blank(text.charCodeAt(at))) at++
      const was = at === line ? '' : text.slice(line, at)
      const lead = at === lineEnd ? '' : leadOf(was)
      if (lead !== was) edits.push({ start: line, end: at, text: lead })
    }
    line = found < 0 ? 0 : found + 1
  }
  return edits
}

/** White space in front of the line that a place stands on, up to that. */
export const leadAt = (text: string, place: number): string =>
  /^[ \t]*/.exec(text.slice(text.lastIndexOf('\n', place - 1) + 1, place))![0]

/** White space that all lines of a stretch begin with where it does not count; lines of nothing else aside. */
export function commonLead(text: string, range: Range, fixed: readonly Range[]): string {
  let common: string | null = null
  for (const line of freeLines(text, range, fixed)) {
    if (line.text === line.end) continue
    const lead = text.slice(line.start, line.text)
    if (common === null) common = lead
    let same = 0
    while (same < common.length && common[same] === lead[same]) same++
    common = common.slice(0, same)
    if (common === '') break
  }
  return common ?? ''
}

/** One level of indentation, as a text is mostly indented; two spaces where nothing tells. */
export function indentUnit(text: string, fixed: readonly Range[]): string {
  const counts = new Map<string, number>()
  let before = ''
  for (const line of freeLines(text, { start: 0, end: text.length }, fixed)) {
    if (line.text === line.end) continue
    const lead = text.slice(line.start, line.text)
    if (lead.length > before.length && lead.startsWith(before)) {
      const step = lead.slice(before.length)
      if (/^(?:\t| {1,8})$/.test(step)) counts.set(step, (counts.get(step) ?? 0) + 1)
    }
    before = lead
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '  '
}

/** Makes leads of one unit of those of another: whole levels become levels, what is left stays. */
export function leadInUnits(from: string, to: string): Lead {
  if (from === to) return (lead) => lead
  return (lead) => {
    let levels = 0
    while (lead.startsWith(from, levels * from.length)) levels++
    return to.repeat(levels) + lead.slice(levels * from.length)
  }
}

/** A text without blank lines at its front and white space at its end, as a stretch of it. */
export function trimmedRange(text: string): Range {
  const end = text.trimEnd().length
  const lead = text.length - text.trimStart().length
  const start = Math.min(end, text.lastIndexOf('\n', lead - 1) + 1)
  return { start: lead === 0 ? 0 : start, end }
}

/** Whether a range holds one of these, which do not overlap and are in order. */
export function rangesHold(inner: readonly Range[]): (outer: Range) => boolean {
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
