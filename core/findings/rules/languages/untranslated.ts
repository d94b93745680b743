import { languageName } from '#core/language'
import { emptyHash, type Page } from '#core/site'
import { type FindingContext, type Found, inPage, type Rule } from '../../rule'

/**
 * The page whose text another holds that is to be its translation, wherever its links lead; undefined where it is translated,
 * and where there is nothing to translate.
 */
export function originalOf(
  { translations, factsOf }: Pick<FindingContext, 'translations' | 'factsOf'>,
  page: Page,
): Page | undefined {
  if (page.content === emptyHash) return undefined
  const isSame = (one: Page) => one.seq < page.seq && factsOf(one.content).said === factsOf(page.content).said
  return factsOf(page.content).said === '' ? undefined : translations.of(page).find(isSame)
}

/** Pages that hold, word for word, the text of the page that they are a translation of. */
export const untranslated: Rule = {
  id: 'untranslated',
  grade: 'hinders',
  title: 'Pages that are not translated yet',
  why: 'They say that they are in one language and are in another: a screen reader reads them with the wrong sounds.',
  reads: 'site',
  find: ({ pages, languages, ...context }) =>
    pages.flatMap((page): Found[] => {
      const original = originalOf(context, page)
      if (!original) return []
      const [from, to] = [languages.of(original), languages.of(page)].map(languageName)
      return [
        {
          place: inPage(page),
          what: `Its text is still that of “${original.label}” in ${from}, word for word; the page is to be in ${to}.`,
        },
      ]
    }),
}

/** Pages of which it was said that they are the same as one in another language, while a third one is that. */
export const repeatedTranslation: Rule = {
  id: 'repeated-translation',
  grade: 'hinders',
  title: 'Pages that are said to be one, in one language',
  why: 'The others are not found from them, and search engines are told of one of them.',
  reads: 'site',
  find: ({ translations, languages }) =>
    translations.repeated.map(({ page, earlier }): Found => ({
      place: inPage(page),
      what: `It and “${earlier.label}” are both said to be the same page in ${languageName(languages.of(page))}; that one counts.`,
      mends: [
        {
          words: 'It is a page of its own',
          change: { kind: 'setTranslations', pairs: [{ pageId: page.id, ofId: null }] },
        },
      ],
    })),
}
