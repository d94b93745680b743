import { count, mostOwnWords } from '#core/site'
import { refuse } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Keeps words as right in this site, whatever dictionaries say. */
export interface KeepWords {
  readonly words: readonly string[]
}

export const keepWords: ChangeKind<KeepWords> = {
  title: ({ words }) =>
    words.length === 1 ? `“${words[0]}” as a right word` : `${count(words.length, 'word')} as right`,
  apply(site, { words }) {
    const ownWords = [...new Set([...site.ownWords, ...words])]
    if (ownWords.length > mostOwnWords)
      return refuse(
        'invalid',
        `A site may keep ${mostOwnWords} words of its own. Take some of them out first.`,
      )
    return { site: { ...site, ownWords } }
  },
}
