import type { Range, TextEdit } from '#core/markup'

/** What is done to a text from beside its editor. */
export interface EditorHandle {
  /** All of it, as it is typed now. */
  readonly text: () => string
  /** What is chosen in it. */
  readonly selection: () => { readonly from: number; readonly to: number; readonly text: string }
  /**
   * Puts a text in the place of a stretch, and goes on there.
   * @param cursor offset into `text`; its end without it
   */
  readonly replace: (from: number, to: number, text: string, cursor?: number) => void
  /**
   * Makes edits that do not overlap, as one step of undo.
   * @param chosen what is chosen then, and gone on from; without it the cursor stays where it is
   */
  readonly edit: (edits: readonly TextEdit[], chosen?: Range) => void
}

export type HandleRef = { current: EditorHandle | null }
