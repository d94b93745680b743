import { languageName } from '#core/language'
import { originalOf } from '#core/plan'
import { differingTexts, emptyHash, type Hash, mainSlot, type Page } from '#core/site'
import { type FindingContext, type Found, inPage, type Rule } from '../../rule'

const saysTheSame = (
  { factsOf }: Pick<FindingContext, 'factsOf'>,
  ...[one, other]: [Pick<Page, 'content'>, Pick<Page, 'content'>]
): boolean => other.content !== emptyHash && factsOf(one.content).said === factsOf(other.content).said

/**
 * The page whose text another holds that is to be its translation, wherever its links lead; undefined where it is translated,
 * and where there is nothing to translate. What the original held when the copy was made counts as its text, too.
 */
export function copiedFrom(
  { translations, factsOf }: Pick<FindingContext, 'translations' | 'factsOf'>,
  page: Page,
): Page | undefined {
  if (page.content === emptyHash) return undefined
  if (factsOf(page.content).said === '') return undefined
  const { translatedFrom: then } = page
  const isSame = (one: Page) =>
    (one.seq < page.seq && saysTheSame({ factsOf }, page, one)) ||
    (one.id === then?.ofId && saysTheSame({ factsOf }, page, then))
  return translations.of(page).find(isSame)
}

/** Has a page that is still to be translated take what its original says now. */
const renewal = (page: Page, original: Page) => ({
  words: 'Take what it says now',
  change: {
    kind: 'renewCopies' as const,
    copies: [{ pageId: page.id, ofId: original.id, was: page.content }],
  },
})

/** Pages that hold, word for word, the text of the page that they are a translation of. */
export const untranslated: Rule = {
  id: 'untranslated',
  grade: 'hinders',
  title: 'Pages that are not translated yet',
  why: 'They say that they are in one language and are in another: a screen reader reads them with the wrong sounds.',
  reads: 'site',
  find: ({ pages, languages, ...context }) =>
    pages.flatMap((page): Found[] => {
      const original = copiedFrom(context, page)
      if (!original) return []
      const [from, to] = [languages.of(original), languages.of(page)].map(languageName)
      const place = { ...inPage(page), slot: mainSlot }
      const whose = `that of “${original.label}” in ${from}`
      if (saysTheSame(context, page, original))
        return [{ place, what: `Its text is still ${whose}, word for word; the page is to be in ${to}.` }]
      return [
        {
          place,
          what: `Its text is still ${whose} as it was before it was changed; the page is to be in ${to}.`,
          mends: [renewal(page, original)],
        },
      ]
    }),
}

/** Translations whose original says something else now than it did when they were said to be the same. */
export const changedOriginal: Rule = {
  id: 'changed-original',
  grade: 'hinders',
  title: 'Translations whose original was changed since',
  why: 'Who reads them is told what was so before, and nobody notices: each page by itself is well.',
  reads: 'site',
  find: ({ site, pages, languages, ...context }) =>
    pages.flatMap((page): Found[] => {
      const original = page.translatedFrom && originalOf(site, page)
      if (!original || original.id !== page.translatedFrom?.ofId || copiedFrom(context, page)) return []
      const saidBy = (hash: Hash) => (hash === emptyHash ? '' : context.factsOf(hash).said)
      const slots = differingTexts(page.translatedFrom, original)
        .filter(({ was, now }) => saidBy(was) !== saidBy(now))
        .map(({ slot }) => slot)
      if (slots.length === 0) return []
      const name = `“${original.label}” in ${languageName(languages.of(original))}`
      const place = { ...inPage(page), slot: slots.includes(mainSlot) ? mainSlot : slots[0] }
      // One that was made before its original was written.
      if (
        saidBy(page.content) === '' &&
        saidBy(page.translatedFrom.content) === '' &&
        slots.includes(mainSlot)
      )
        return [
          {
            place,
            what: `${name} has a text now, and this copy of it none.`,
            mends: [renewal(page, original)],
          },
        ]
      const where = slots.includes(mainSlot) ? '' : ` in ${slots.map((slot) => `“${slot}”`).join(' and ')}`
      return [
        {
          place,
          what: `${name} was changed${where} after this was translated from it.`,
          mends: [
            {
              words: 'It says the same now',
              change: { kind: 'confirmTranslations', pageIds: [page.id] },
              isOther: true,
            },
          ],
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
