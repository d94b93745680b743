import { applyEdits, ownDocumentIn, readHtml, paragraphEdits } from '#core/markup'
import { htmlOfMarkdown, looksLikeMarkdown } from './markdown'

/** How a text reads that is no HTML of a page's content: typed without tags, or with those of a whole document. */
export type PlainText = 'markdown' | 'paragraphs' | 'document'

/** Whether a text is a document, is Markdown, or has paragraphs that only blank lines part; null where it is HTML as it should be. */
export function plainTextIn(text: string): PlainText | null {
  if (ownDocumentIn(text)) return 'document'
  if (looksLikeMarkdown(text)) return 'markdown'
  return readHtml(text).runs.length > 0 ? 'paragraphs' : null
}

/** Such a text as HTML of a content. */
export function htmlOfPlain(text: string, kind: PlainText): string {
  if (kind === 'markdown') return htmlOfMarkdown(text)
  if (kind === 'document')
    return applyEdits(
      text,
      (ownDocumentIn(text)?.extra ?? []).map((range) => ({ ...range, text: '' })),
    )
  return applyEdits(text, readHtml(text).runs.flatMap(paragraphEdits))
}
