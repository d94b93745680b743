/** A stretch of a text and what is to stand there instead. Offsets count UTF-16 code units. */
export interface TextEdit {
  readonly start: number
  readonly end: number
  readonly text: string
}

/** Applies edits that do not overlap, in any order, and leaves every other character as it was. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  if (edits.length === 0) return text
  const parts: string[] = []
  let at = 0
  for (const edit of [...edits].sort((a, b) => a.start - b.start)) {
    if (edit.start < at) throw new RangeError(`Edits overlap at ${edit.start}`)
    parts.push(text.slice(at, edit.start), edit.text)
    at = edit.end
  }
  parts.push(text.slice(at))
  return parts.join('')
}
