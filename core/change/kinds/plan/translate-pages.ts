import { languageCalled, languageName, languageTag, ownNameOf } from '#core/language'
import { languagesOf, lastUnder, translationsOf, treeOf, withTranslations } from '#core/plan'
import type { Page, Site } from '#core/site'
import { gone, noLanguage, refuse } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'
import { leadsInto } from '../page/renew-copies'
import { orderKeys } from '../../places'

/** Gives a page and all below it copies in another language, to be translated; each is the same page as its original. */
export interface TranslatePages {
  readonly pageId: string
  /** BCP 47. */
  readonly language: string
  /** New ids by the ids of the originals, for every page of `untranslatedFrom`. */
  readonly newIds: Readonly<Record<string, string>>
}

/**
 * The page in another language. A section at the top that is the only one in that is the home page in it, whether or not it is
 * said: its pages belong there. A page by itself is none, unless it is called by the language.
 */
function translationOf(site: Site, page: Page, language: string): Page | undefined {
  const said = translationsOf(site).inLanguage(page, language)
  if (said || page.id !== site.homeId) return said
  const { of } = languagesOf(site)
  const tree = treeOf(site)
  const sections = tree.childrenOf(null).filter((one) => {
    if (one === page || one.trial || of(one) !== language) return false
    return tree.childrenOf(one.id).length > 0 || languageCalled(one.label) === language
  })
  return sections.length === 1 ? sections[0] : undefined
}

/**
 * The page and those below it that are not in a language yet, in reading order, of the home page those of the whole site:
 * without what is in yet another language, and without trial pages. Linear in the site.
 */
export function untranslatedFrom(site: Site, pageId: string, language: string): Page[] {
  const spoken = languagesOf(site)
  const top = treeOf(site).byId.get(pageId)
  if (!top || spoken.of(top) === language) return []
  const from = spoken.of(top)
  const within = new Set<string>()
  const found: Page[] = []
  for (const { page, trial } of treeOf(site).places) {
    const isBelow = pageId === site.homeId ? page.parentId === null : page.id === pageId
    if (trial || !(isBelow || within.has(page.parentId ?? '')) || spoken.of(page) !== from) continue
    within.add(page.id)
    if (!translationOf(site, page, language)) found.push(page)
  }
  return found
}

/**
 * What the home page in a language is called in addresses: its tag, where the language calls itself in other letters than
 * addresses have, so that nothing of it would be left to read; null where its label will do.
 */
const homeName = (language: string): string | null =>
  /\p{Script=Latin}/u.test(ownNameOf(language)) ? null : language.toLowerCase()

export const translatePages: ChangeKind<TranslatePages> = {
  inMenus: true,
  deepens: true,
  copies: ({ newIds }) => newIds,
  leads: ({ language }, before) => leadsInto(before, language),
  title: ({ pageId, language }, before) =>
    `copies of ${quoted(before, pageId)} to be translated into ${languageName(language)}`,
  question: ({ pageId, language }, before) => {
    const count = untranslatedFrom(before, pageId, language).length
    return {
      name: 'Another language',
      what: `${count === 1 ? quoted(before, pageId) : `${count} pages`} ${count === 1 ? 'gets a copy' : 'get copies'} to be translated into ${languageName(language)}`,
      go: 'Make the copies',
      leave: 'Make none',
    }
  },
  apply(site, { pageId, language, newIds }) {
    const tree = treeOf(site)
    const top = tree.byId.get(pageId)
    if (!top) return gone('The page to translate')
    const spoken = languagesOf(site)
    if (spoken.of(top) === language)
      return refuse('invalid', `${quoted(site, pageId)} is in ${languageName(language)} already.`)
    if (tree.placeOf.get(pageId)!.trial) return refuse('invalid', 'A trial page is not part of the site yet.')
    if (!languageTag.test(language)) return refuse('invalid', noLanguage)
    const originals = untranslatedFrom(site, pageId, language)
    // Asked for again because the answer was lost on the way: it is done.
    if (originals.length === 0) return { site }
    const ids = originals.map((page) => newIds[page.id] ?? '')
    const idOf = new Map(originals.map((page, at) => [page.id, ids[at]!]))
    if (new Set(ids).size < ids.length || ids.some((id) => id === '' || tree.byId.has(id)))
      return refuse('invalid', 'The copies have no ids of their own.')

    const home = tree.byId.get(site.homeId)!
    const targets = new Map<string, string>()
    for (const { page } of tree.places) {
      const there = idOf.get(page.id) ?? translationOf(site, page, language)?.id
      if (there !== undefined) targets.set(page.id, there)
    }
    /** Under what a copy stands: the page above in that language; without one it stands beside its original. */
    const parentFor = (page: Page): string | null => {
      if (page.id === home.id) return null
      return targets.get(page.parentId ?? home.id) ?? page.parentId
    }
    const byParent = new Map<string | null, Page[]>()
    for (const page of originals) {
      const parentId = parentFor(page)
      const those = byParent.get(parentId)
      if (those) those.push(page)
      else byParent.set(parentId, [page])
    }
    const orderOf = new Map<string, string>()
    for (const [parentId, those] of byParent) {
      const isNew = parentId !== null && !tree.byId.has(parentId)
      const [first] = those
      const beside = first && first.parentId === parentId && first.id !== home.id ? first.id : null
      const after = isNew ? null : (beside ?? lastUnder(tree, parentId, []))
      orderKeys(site, parentId, after, those.length).forEach((key, at) => orderOf.set(those[at]!.id, key))
    }
    const languageAt = (parentId: string | null): string => {
      if (parentId === null) return site.language
      const parent = tree.byId.get(parentId)
      return parent ? spoken.of(parent) : language
    }
    let seq = site.nextSeq
    const copies = originals.map((page): Page => {
      const parentId = parentFor(page)
      return {
        ...page,
        id: idOf.get(page.id)!,
        parentId,
        order: orderOf.get(page.id)!,
        seq: seq++,
        label: page.id === home.id ? ownNameOf(language) : page.label,
        // A name of its own belongs to one page.
        ownName: page.id === home.id ? homeName(language) : null,
        keptName: null,
        addresses: [],
        language: languageAt(parentId) === language ? null : language,
        translationSet: null,
        translatedFrom: { ofId: page.id, content: page.content, slots: page.slots },
      }
    })
    const after = { ...site, nextSeq: seq, pages: [...site.pages, ...copies] }
    const section = translationOf(site, home, language)
    const pairs = [
      ...(section ? [{ pageId: section.id, ofId: home.id }] : []),
      ...originals.map((page) => ({ pageId: idOf.get(page.id)!, ofId: page.id })),
    ]
    return { site: { ...after, pages: withTranslations(after, pairs) } }
  },
}
