import type { EditorView } from '@codemirror/view'
import type { Range } from '#core/markup'
import type { Fitted } from '#core/texts'

/** Fits a piece of HTML into a text, whatever that is by then: it may have been on its way for a while. */
export type Fitting = (text: string, where: Range) => Fitted

/** Puts a piece of HTML where it can stand, as near as may be to where it was wanted, and goes on behind it. */
export function putInto(view: EditorView, where: Range, fit: Fitting, userEvent: string): void {
  // Something may have been typed before it meanwhile.
  const most = view.state.doc.length
  const wanted = { start: Math.min(where.start, most), end: Math.min(where.end, most) }
  const { start, end, text, cursor } = fit(view.state.doc.toString(), wanted)
  view.dispatch({
    changes: { from: start, to: end, insert: text },
    selection: { anchor: start + cursor },
    scrollIntoView: true,
    userEvent,
  })
}
