import { applyEdits, readHtml, paragraphEdits } from '#core/markup'
import { htmlOfMarkdown, looksLikeMarkdown } from './markdown'

/** How a text reads that somebody typed without tags. */
export type PlainText = 'markdown' | 'paragraphs'

/** Whether a text is Markdown, or has paragraphs that only blank lines part; null where it is HTML as it should be. */
export function plainTextIn(text: string): PlainText | null {
  if (looksLikeMarkdown(text)) return 'markdown'
  return readHtml(text).runs.length > 0 ? 'paragraphs' : null
}

/** Such a text as HTML. */
export const htmlOfPlain = (text: string, kind: PlainText): string =>
  kind === 'markdown' ? htmlOfMarkdown(text) : applyEdits(text, readHtml(text).runs.flatMap(paragraphEdits))
