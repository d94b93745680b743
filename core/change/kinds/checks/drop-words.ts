import { count } from '#core/site'
import type { ChangeKind } from '../../kind'

/** Keeps words no longer as right. */
export interface DropWords {
  readonly words: readonly string[]
}

export const dropWords: ChangeKind<DropWords> = {
  title: ({ words }) =>
    words.length === 1
      ? `“${words[0]}” as no word of its own`
      : `${count(words.length, 'word')} as none of its own`,
  apply(site, { words }) {
    const gone = new Set(words)
    return { site: { ...site, ownWords: site.ownWords.filter((word) => !gone.has(word)) } }
  },
}
