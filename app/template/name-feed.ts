import { applyEdits } from '#core/markup'
import { namesOwnFeed, sayFeed } from '#core/template'

/** A template that names the feed of the site; null where it names one already. Fetched apart: it brings the parser. */
export function withFeedNamed(text: string): string | null {
  const edits = namesOwnFeed(text) ? [] : sayFeed(text)
  return edits.length > 0 ? applyEdits(text, edits) : null
}
