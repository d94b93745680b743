import type { Page, Site } from '#core/site'
import { languagesOf } from './languages'
import { treeOf } from './tree'

/** Which pages of a site are one page in several languages. */
export interface Translations {
  /** Languages that a page is translated from or into, in the order of `Languages.all`. */
  readonly languages: readonly string[]
  /** The page in each language that it is in, itself among them, by the order of languages; none where it is in one only. */
  of(page: Page): readonly Page[]
  /** The page in another language, where it is in that. */
  inLanguage(page: Page, language: string): Page | undefined
  /** Pages in a language that an earlier one of their set is in already, and that one: they count for nothing. */
  readonly repeated: readonly { readonly page: Page; readonly earlier: Page }[]
}

type Translated = Pick<Site, 'pages' | 'homeId' | 'language'>

const none: readonly Page[] = []
const untranslated: Translations = {
  languages: [],
  of: () => none,
  inLanguage: () => undefined,
  repeated: [],
}

const known = new WeakMap<
  readonly Page[],
  { readonly site: Translated; readonly translations: Translations }
>()

/** Which pages are one page in several languages; computed once for each list of pages. Trial pages are in no set. */
export function translationsOf(site: Translated): Translations {
  const memo = known.get(site.pages)
  if (memo && memo.site.language === site.language && memo.site.homeId === site.homeId)
    return memo.translations
  const translations = workOut(site)
  known.set(site.pages, { site, translations })
  return translations
}

function workOut(site: Translated): Translations {
  if (site.pages.every((page) => page.translationSet === null)) return untranslated
  const spoken = languagesOf(site)
  const sets = new Map<string, Map<string, Page>>()
  const repeated: { page: Page; earlier: Page }[] = []
  for (const { page, trial } of treeOf(site).places) {
    if (page.translationSet === null || trial) continue
    let set = sets.get(page.translationSet)
    if (!set) sets.set(page.translationSet, (set = new Map()))
    const language = spoken.of(page)
    const earlier = set.get(language)
    if (earlier) repeated.push({ page, earlier })
    else set.set(language, page)
  }
  const rank = new Map(spoken.all.map((language, index) => [language, index]))
  const byPage = new Map<
    string,
    { readonly list: readonly Page[]; readonly set: ReadonlyMap<string, Page> }
  >()
  const met = new Set<string>()
  for (const set of sets.values()) {
    if (set.size < 2) continue
    const inOrder = [...set].sort(([a], [b]) => rank.get(a)! - rank.get(b)!)
    const list = inOrder.map(([, page]) => page)
    for (const [language, page] of inOrder) {
      met.add(language)
      byPage.set(page.id, { list, set })
    }
  }
  return {
    languages: spoken.all.filter((language) => met.has(language)),
    of: (page) => byPage.get(page.id)?.list ?? none,
    inLanguage: (page, language) => byPage.get(page.id)?.set.get(language),
    repeated,
  }
}

/** That one page is the same as another, in another language. */
export interface TranslationPair {
  readonly pageId: string
  readonly ofId: string
}

/**
 * The pages of a site with some of them said to be one page in several languages. What else the two are said to be stays, as
 * far as there is one page in each language: the pair itself goes before the pages that `ofId` is, and those before the ones
 * that `pageId` is. Pages that are not there, and pairs in one language, are passed over. Linear in the site and the pairs.
 */
export function withTranslations(site: Translated, pairs: readonly TranslationPair[]): readonly Page[] {
  const tree = treeOf(site)
  const spoken = languagesOf(site)
  const setOf = new Map<string, string>()
  const sets = new Map<string, string[]>()
  for (const { page } of tree.places) {
    if (page.translationSet === null) continue
    setOf.set(page.id, page.translationSet)
    const members = sets.get(page.translationSet)
    if (members) members.push(page.id)
    else sets.set(page.translationSet, [page.id])
  }
  const changed = new Set<string>()
  const put = (id: string, set: string | null) => {
    changed.add(id)
    if (set === null) setOf.delete(id)
    else setOf.set(id, set)
  }
  for (const { pageId, ofId } of pairs) {
    const [page, of] = [tree.byId.get(pageId), tree.byId.get(ofId)]
    if (!page || !of || spoken.of(page) === spoken.of(of)) continue
    const [own, its] = [setOf.get(pageId), setOf.get(ofId)]
    const members = [pageId, ofId, ...(its === undefined ? [] : sets.get(its)!), ...(own === undefined || own === its ? [] : sets.get(own)!)] // prettier-ignore
    const byLanguage = new Map<string, string>()
    for (const id of members) {
      const language = spoken.of(tree.byId.get(id)!)
      if (!byLanguage.has(language)) byLanguage.set(language, id)
    }
    const kept = [...byLanguage.values()]
    const name = its ?? own ?? freeName(ofId, sets)
    for (const id of members) put(id, null)
    for (const id of kept) put(id, name)
    if (own !== undefined && own !== name) sets.delete(own)
    sets.set(name, kept)
  }
  if (changed.size === 0) return site.pages
  return site.pages.map((page) => {
    const translationSet = setOf.get(page.id) ?? null
    return page.translationSet === translationSet ? page : { ...page, translationSet }
  })
}

/**
 * The page that another is a translation of: the one it was held against, else the one in the language of the site, else the
 * oldest of its set. Undefined for one that is no translation: an original, or a page in one language only.
 */
export function originalOf(site: Translated, page: Page): Page | undefined {
  const inLanguages = translationsOf(site).of(page)
  if (inLanguages.length === 0) return undefined
  const said = inLanguages.find(({ id }) => id === page.translatedFrom?.ofId)
  if (said && said !== page) return said
  const { of } = languagesOf(site)
  const first =
    inLanguages.find((one) => of(one) === site.language) ?? [...inLanguages].sort((a, b) => a.seq - b.seq)[0]
  return first === page ? undefined : first
}

/** The pages of a site with some of them held against what their originals hold now: they say the same. Linear in the site. */
export function heldAgainstOriginals(site: Translated, pageIds: ReadonlySet<string>): readonly Page[] {
  return site.pages.map((page) => {
    const original = pageIds.has(page.id) ? originalOf(site, page) : undefined
    if (!original) return page
    const { id: ofId, content, slots } = original
    return { ...page, translatedFrom: { ofId, content, slots } }
  })
}

/** A name for a set that no other has: a page's that it began with may be that of one it has left. */
function freeName(pageId: string, sets: ReadonlyMap<string, unknown>): string {
  if (!sets.has(pageId)) return pageId
  let number = 2
  while (sets.has(`${pageId}.${number}`)) number++
  return `${pageId}.${number}`
}
