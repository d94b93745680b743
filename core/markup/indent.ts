import type { TextEdit } from './edits'

/** A stretch of a text. */
export interface Range {
  readonly start: number
  readonly end: number
}

/**
 * What has to be done to a stretch of a text for each of its lines but the first to begin with
 * `indent`, except where white space counts. Lines of white space only become empty. One pass.
 * @param fixed where white space is part of what is shown or run, sorted by where it starts
 */
export function indentEdits(
  text: string,
  { start, end }: Range,
  fixed: readonly Range[],
  indent: string,
): TextEdit[] {
  if (indent === '') return []
  const edits: TextEdit[] = []
  let next = 0
  /** How far the stretches that begin before this line reach. */
  let reach = -1
  for (let line = text.indexOf('\n', start) + 1; line > 0 && line <= end;) {
    while (next < fixed.length && fixed[next]!.start < line) reach = Math.max(reach, fixed[next++]!.end)
    const found = text.indexOf('\n', line)
    const lineEnd = found < 0 || found > end ? end : found
    if (line > reach) {
      const isBlank = text.slice(line, lineEnd).trim() === ''
      if (!isBlank) edits.push({ start: line, end: line, text: indent })
      else if (lineEnd > line) edits.push({ start: line, end: lineEnd, text: '' })
    }
    line = found < 0 ? 0 : found + 1
  }
  return edits
}

/** A text without blank lines at its front and white space at its end, as a stretch of it. */
export function trimmedRange(text: string): Range {
  const end = text.trimEnd().length
  const lead = text.length - text.trimStart().length
  const start = Math.min(end, text.lastIndexOf('\n', lead - 1) + 1)
  return { start: lead === 0 ? 0 : start, end }
}
