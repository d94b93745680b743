import { languageName } from '#core/language'
import type { Translations } from '#core/plan'
import { emptyHash, type Page } from '#core/site'
import { type Found, inPage, type Rule } from '../../rule'

/** The page whose text another holds that is to be its translation; undefined where it is translated. */
export const originalOf = ({ of }: Translations, page: Page): Page | undefined =>
  page.content === emptyHash
    ? undefined
    : of(page).find((one) => one.seq < page.seq && one.content === page.content)

/** Pages that hold, to the letter, the text of the page that they are a translation of. */
export const untranslated: Rule = {
  id: 'untranslated',
  grade: 'hinders',
  title: 'Pages that are not translated yet',
  why: 'They say that they are in one language and are in another: a screen reader reads them with the wrong sounds.',
  reads: 'site',
  find: ({ pages, translations, languages }) =>
    pages.flatMap((page): Found[] => {
      const original = originalOf(translations, page)
      if (!original) return []
      const [from, to] = [languages.of(original), languages.of(page)].map(languageName)
      return [
        {
          place: inPage(page),
          what: `Its text is still that of “${original.label}” in ${from}, letter by letter; the page is to be in ${to}.`,
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
