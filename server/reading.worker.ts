import { findCssReferences, readHtml, type HtmlFacts, type Reference } from '#core/markup'

/** What a reader is asked: one text that an author handed in. */
export type ReadingTask =
  { readonly kind: 'html'; readonly text: string } | { readonly kind: 'css'; readonly text: string }

/** Reads a text. Runs in a thread of its own, which is ended when it takes too long or too much. */
export default function read(task: ReadingTask): HtmlFacts | Reference[] {
  return task.kind === 'html' ? readHtml(task.text) : findCssReferences(task.text)
}
