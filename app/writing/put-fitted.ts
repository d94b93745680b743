import type { fitInto } from '#core/texts'
import type { EditorHandle } from '../parts/editor/editor-handle'

/** Puts HTML in the place of a stretch, or where it can stand near that. */
export function putFitted(
  handle: EditorHandle,
  { from, to }: { readonly from: number; readonly to: number },
  html: string,
  fit: typeof fitInto,
): void {
  const { start, end, text, cursor } = fit(handle.text(), { start: from, end: to }, html)
  handle.replace(start, end, text, cursor)
}
