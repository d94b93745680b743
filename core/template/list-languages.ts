import type { TextEdit } from '#core/markup'
import { readSkeleton } from './skeleton/read-skeleton'
import { headEdits } from './skeleton/write-skeleton'
import { partEdit } from './skeleton/written-parts'

/** Edits after which a template that is a whole document lists the languages of each page. */
export function listLanguages(source: string, language: string): TextEdit[] {
  const edit = partEdit(source, 'languages', language)
  return edit ? [edit] : []
}

/** Edits after which a template says to search engines where each page is in other languages (HTML §4.6.7.1); none where it does. */
export const sayTranslations = (source: string): TextEdit[] =>
  headEdits(source, { part: 'translations', value: '{translation.address}' })

/** Edits after which a template that is a whole document names the feed of what is new; none where it names one. */
export function sayFeed(source: string): TextEdit[] {
  const { isDocument, feed } = readSkeleton(source)
  return isDocument && feed === null ? headEdits(source, { part: 'feed', value: '{feed}' }) : []
}
