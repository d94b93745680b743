import { languageCalled } from '#core/language'
import type { TranslationPair } from '#core/plan'
import { emptyHash, type Page } from '#core/site'
import type { FindingContext } from '../../rule'

/** Pages of a section in another language that look like pages beside it. */
export interface GuessedTranslations {
  /** The section, and what it would be in its language. */
  readonly section: Page
  readonly of: Page
  readonly language: string
  readonly pairs: readonly TranslationPair[]
  /** Of those, by nothing but their places. */
  readonly byPlace: number
}

/**
 * Which pages look like one page in two languages, and are not said to be: sections at the top level in another language than
 * the site, and what is below them, page by page, by their names, labels and texts, else by their places where as many
 * stand on either side. Linear in the site.
 */
export function guessTranslations(context: FindingContext): GuessedTranslations[] {
  const { site, tree, languages } = context
  if (languages.all.length === 1) return []
  const home = tree.byId.get(site.homeId)
  if (!home) return []
  const top = tree.childrenOf(null).filter((page) => page !== home && !page.trial)
  // Where the home page only leads on, the pages in its language are a section too.
  const beside = top.find((page) => languages.of(page) === site.language && languageCalled(page.label) === site.language) // prettier-ignore
  const of = beside ?? home
  const sections = top.filter((page) => languages.of(page) !== languages.of(of))
  const counts = new Map<string, number>()
  for (const section of sections) {
    const language = languages.of(section)
    counts.set(language, (counts.get(language) ?? 0) + 1)
  }
  return sections.flatMap((section) => {
    const language = languages.of(section)
    // Two sections in one language: neither is the site in that.
    if (counts.get(language)! > 1) return []
    const guessed = pairsUnder(context, of, section, language)
    // By itself a page in another language is a page, and not the home page in that.
    const isHome = languageCalled(section.label) === language || guessed.pairs.some(({ pageId }) => pageId !== section.id) // prettier-ignore
    return isHome && guessed.pairs.length > 0 ? [{ section, of, language, ...guessed }] : []
  })
}

function pairsUnder(context: FindingContext, of: Page, section: Page, language: string) {
  const { site, tree, languages, translations } = context
  const pairs: TranslationPair[] = []
  let byPlace = 0
  const from = languages.of(of)
  const below = (page: Page, spoken: string) =>
    tree
      .childrenOf(page.id === site.homeId ? null : page.id)
      .filter(
        (one) => one.id !== site.homeId && !one.trial && languages.of(one) === spoken && one !== section,
      )
  const todo: [Page, Page][] = []
  /** Whether two are said to be the same; pages that are the same as others are no other's. */
  const meet = (one: Page, other: Page): boolean => {
    const said = translations.inLanguage(one, language)
    if (said) return said === other && todo.push([one, other]) > 0
    if (translations.inLanguage(other, from)) return false
    pairs.push({ pageId: other.id, ofId: one.id })
    return todo.push([one, other]) > 0
  }
  if (!meet(of, section)) return { pairs: [], byPlace }
  for (let at = 0; at < todo.length; at++) {
    const [one, other] = todo[at]!
    let [these, those] = [below(one, from), below(other, language)]
    for (const key of keys(context)) {
      const byKey = onceBy(those, key)
      const found = onceBy(these, key)
      const met = new Set<Page>()
      for (const [value, page] of found) {
        const same = byKey.get(value)
        if (page && same && meet(page, same)) met.add(page).add(same)
      }
      ;[these, those] = [these.filter((page) => !met.has(page)), those.filter((page) => !met.has(page))]
    }
    // As many on either side, and as many below each: they stand as they stand there.
    const isAlike = (page: Page, index: number) =>
      below(page, from).length === below(those[index]!, language).length
    if (these.length === those.length && these.every(isAlike))
      for (const [index, page] of these.entries()) if (meet(page, those[index]!)) byPlace += 1
  }
  return { pairs, byPlace }
}

/** What two pages may have alike that tells more than where they stand, the surest first; '' for nothing. */
const keys = ({ names, translations }: FindingContext): ((page: Page) => string)[] => [
  (page) => translations.of(page).map(({ id }) => id).join(), // prettier-ignore
  (page) => names.pages.get(page.id)!.stem.toLowerCase(),
  (page) => page.label.normalize('NFKC').toLowerCase(),
  (page) => (page.content === emptyHash ? '' : page.content),
]

/** Pages by what they have; null where two have the same. */
function onceBy(pages: readonly Page[], key: (page: Page) => string): Map<string, Page | null> {
  const by = new Map<string, Page | null>()
  for (const page of pages) {
    const value = key(page)
    if (value !== '') by.set(value, by.has(value) ? null : page)
  }
  return by
}
