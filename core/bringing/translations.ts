import { canBe, languageCalled, ownNameOf } from '#core/language'
import type { TranslationPair } from '#core/plan'
import { saidLanguage } from './languages'
import type { PageLink } from './reading/page-outline'
import type { ReadPage, SaidTranslation } from './reading/read-page'

/** The language that a link is called by: `Deutsch`, `DE`; null for any other. */
export function calledBy(label: string): string | null {
  const called = languageCalled(label)
  if (called !== null) return called
  const tag = label.trim().toLowerCase()
  return /^[a-z]{2}(-[a-z]{2})?$/.test(tag) && ownNameOf(tag) !== tag ? tag : null
}

/**
 * Whether a link of a page is of those that lead to it in each language: it says so, or is called as the language is that the
 * page says which it leads to; its own among them.
 */
export function isOfLanguages(from: ReadPage, link: PageLink, to: ReadPage): boolean {
  if (from.translations.some(({ id }) => id === to.id)) return true
  const called = calledBy(link.label)
  if (called === null) return false
  const [own, its] = [saidLanguage(from), saidLanguage(to)]
  return its !== null && (own !== its || from.id === to.id) && canBe(called, its)
}

/** What pages say that they are in other languages: by `hreflang`, and by links that are called as languages are. */
function* saidBy({ id, links, translations }: ReadPage): Iterable<SaidTranslation> {
  for (const said of translations) if (said.id !== id) yield said
  for (const link of links) {
    const language = link.id === id ? null : calledBy(link.label)
    if (language !== null) yield { language, id: link.id }
  }
}

/**
 * Pages that say of one another that they are one page in two languages, or one of which says it of a page that no other of
 * its language says it of: a way to the home page in another language says it of that alone. Linear in the pages and their
 * links.
 * @param languageOf what each page is in
 */
export function translationsIn(
  pages: readonly ReadPage[],
  languageOf: (id: string) => string,
): TranslationPair[] {
  const byId = new Set(pages.map(({ id }) => id))
  const claims: TranslationPair[] = []
  const said = new Set<string>()
  /** How many pages of a language say it of a page. */
  const counts = new Map<string, number>()
  const keyOf = (language: string, id: string) => `${language} ${id}`
  for (const page of pages) {
    const own = languageOf(page.id)
    for (const { language, id } of saidBy(page)) {
      const key = `${page.id} ${id}`
      if (
        !byId.has(id) ||
        said.has(key) ||
        languageOf(id) === own ||
        !canBe(language.split('-')[0]!.toLowerCase(), languageOf(id))
      )
        continue
      said.add(key)
      claims.push({ pageId: page.id, ofId: id })
      counts.set(keyOf(own, id), (counts.get(keyOf(own, id)) ?? 0) + 1)
    }
  }
  const isMutual = ({ pageId, ofId }: TranslationPair) => said.has(`${ofId} ${pageId}`)
  const isAlone = ({ pageId, ofId }: TranslationPair) => counts.get(keyOf(languageOf(pageId), ofId)) === 1
  // What both say has the last word.
  const [mutual, alone] = [claims.filter(isMutual), claims.filter((pair) => !isMutual(pair) && isAlone(pair))]
  return [...alone, ...mutual]
}
