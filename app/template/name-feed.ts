import { applyEdits } from '#core/markup'
import { sayFeed } from '#core/template'

/** A template that names the feed of the site; null where it does already. Fetched apart: it brings the parser. */
export function withFeedNamed(text: string): string | null {
  const edits = sayFeed(text)
  return edits.length > 0 ? applyEdits(text, edits) : null
}
