/** A stretch of a text and what is to stand there instead. Offsets count UTF-16 code units. */
export interface TextEdit {
  readonly start: number
  readonly end: number
  readonly text: string
}

/** Applies edits that do not overlap, in any order, and leaves every other character as it was. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  if (edits.length === 0) return text
  let inOrder: readonly TextEdit[] = edits
  // Most come in order already.
  for (let index = 1; index < edits.length; index++)
    if (edits[index]!.start < edits[index - 1]!.start) {
      inOrder = [...edits].sort((a, b) => a.start - b.start)
      break
    }
  let out = ''
  let at = 0
  for (const edit of inOrder) {
    if (edit.start < at) throw new RangeError(`Edits overlap at ${edit.start}`)
    out += text.slice(at, edit.start) + edit.text
    at = edit.end
  }
  return out + text.slice(at)
}
