import { applyEdits, indentEdits, type Range, readHtml, trimmedRange } from '#core/markup'

/** Whether a text is a whole document and not what stands in one. */
const isDocument = (text: string): boolean => /<(!doctype|html|head|body)[\s>]/i.test(text)

/**
 * A design that was made on a page as the source of a template: what pages fill in gives way to a slot. A
 * whole document stays one; anything else fills the slot `content` of the template that the page has.
 * @param filled what pages fill in, a stretch of the text; null where a slot stands in it already
 */
export function templateOfDesign(text: string, filled: Range | null): string {
  const slot = '<slot name="content"></slot>'
  const lines = filled && trimmedStretch(text, filled)
  const design = lines ? applyEdits(text, [{ ...lines, text: slot }]) : text
  if (isDocument(design)) return design.trimEnd() + '\n'
  const range = trimmedRange(design)
  const inner = design.slice(range.start, range.end)
  const edits = indentEdits(
    inner,
    { start: 0, end: inner.length },
    readHtml(inner).fixed,
    (lead) => `  ${lead}`,
  )
  return `<template slot="content">\n  ${applyEdits(inner, edits)}\n</template>\n`
}

/** Without the white space at its ends, so that the slot stands where the first letter stood. */
function trimmedStretch(text: string, { start, end }: Range): Range | null {
  const stretch = text.slice(start, end)
  if (stretch.trim() === '') return null
  return {
    start: start + (stretch.length - stretch.trimStart().length),
    end: start + stretch.trimEnd().length,
  }
}

/** Whether pages of a template with this source have a place to be written in. */
export const hasSlot = (text: string): boolean => /<slot[\s>]/i.test(text)
