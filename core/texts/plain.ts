import { applyEdits, escapeText, ownDocumentIn, readHtml, paragraphEdits } from '#core/markup'
import { htmlOfMarkdown, looksLikeMarkdown } from './markdown'

/** How a text reads that is no HTML of a page's content: typed without tags, or with those of a whole document. */
export type PlainText = 'markdown' | 'paragraphs' | 'document'

/** Whether a text is a document, is Markdown, or has paragraphs that only blank lines part; null where it is HTML as it should be. */
export function plainTextIn(text: string): PlainText | null {
  if (ownDocumentIn(text)) return 'document'
  if (looksLikeMarkdown(text)) return 'markdown'
  return untagged(text).length > 0 ? 'paragraphs' : null
}

/** Text straight in a content, whose paragraphs have no tags. */
const untagged = (text: string) => readHtml(text).runs.filter(({ within }) => within === null)

/** Such a text as HTML of a content. */
export function htmlOfPlain(text: string, kind: PlainText): string {
  if (kind === 'markdown') return htmlOfMarkdown(text)
  if (kind === 'document')
    return applyEdits(
      text,
      (ownDocumentIn(text)?.extra ?? []).map((range) => ({ ...range, text: '' })),
    )
  return applyEdits(text, untagged(text).flatMap(paragraphEdits))
}

/** Lines that end as those of a program or a style sheet do. */
const endsOfCode = /[{};][ \t]*$/gm

/**
 * The paragraphs of a text without tags, which blank lines part; null where it is one alone, where it has tags, and where it is
 * source of another kind.
 */
export function paragraphsInText(text: string): string[] | null {
  if (/<[a-z/!]/i.test(text) || (text.match(endsOfCode)?.length ?? 0) > 1) return null
  const paragraphs = text
    .replace(/\r\n?/g, '\n')
    .split(/\n[^\S\n]*\n/)
    .map((paragraph) => paragraph.trim())
    .filter((paragraph) => paragraph !== '')
  return paragraphs.length > 1 ? paragraphs : null
}

/** Such paragraphs as HTML; their lines stay lines of the source. */
export const htmlOfParagraphs = (paragraphs: readonly string[]): string =>
  paragraphs
    .map((paragraph) => `<p>${escapeText(paragraph.replace(/[^\S\n]*\n[^\S\n]*/g, '\n'))}</p>`)
    .join('\n')
