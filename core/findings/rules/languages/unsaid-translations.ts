import { languageName } from '#core/language'
import { count } from '#core/site'
import { type Found, inPage, type Rule } from '../../rule'
import { guessTranslations } from './guess'

/** Pairs that are named before the rest is counted. */
const mostNamed = 4

/** A section in another language whose pages look like those of the site, without its being said which are the same. */
export const unsaidTranslations: Rule = {
  id: 'unsaid-translations',
  grade: 'detail',
  title: 'Pages in another language that look like pages of the site',
  why: 'Once it is said which are the same, each leads to the other, and search engines show people the one that they can read.',
  reads: 'site',
  find: (context) =>
    guessTranslations(context).map(({ section, language, pairs, byPlace }): Found => {
      const named = pairs.slice(0, mostNamed).map(({ pageId, ofId }) => {
        const [page, of] = [pageId, ofId].map((id) => context.tree.byId.get(id)!.label)
        return `“${page}” like “${of}”`
      })
      const more = pairs.length > mostNamed ? ` and ${pairs.length - mostNamed} more` : ''
      const why =
        byPlace > 0 ? `, ${byPlace === pairs.length ? 'all' : byPlace} by no more than where they stand` : ''
      return {
        mark: language,
        place: inPage(section),
        what: `${count(pairs.length, 'page')} in ${languageName(language)} ${pairs.length === 1 ? 'looks like one' : 'look like ones'} of the site${why}: ${named.join(', ')}${more}.`,
        mends: [
          {
            words:
              pairs.length === 1 ? 'Say that it is the same' : `Say that the ${pairs.length} are the same`,
            change: { kind: 'setTranslations', pairs },
            ...(byPlace > 0 && { isOther: true }),
          },
        ],
      }
    }),
}
