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

/** How a template names the feed that is made of the site. */
export const madeFeed = '{feed}'

/** Edits after which a template that is a whole document names the feed that is made of the site, in the place of any other. */
export const sayFeed = (source: string): TextEdit[] =>
  readSkeleton(source).isDocument ? headEdits(source, { part: 'feed', value: madeFeed }) : []

/** Whether a template names a feed that its author keeps. */
export function namesOwnFeed(source: string): boolean {
  const { feed } = readSkeleton(source)
  return feed !== null && feed !== madeFeed
}
