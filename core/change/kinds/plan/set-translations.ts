import { languageName } from '#core/language'
import { heldAgainstOriginals, languagesOf, originalOf, treeOf, withTranslations } from '#core/plan'
import { count, type Page } from '#core/site'
import { gone, refuse } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Says of pages that each is the same as another page, in another language; with null, that it is in its own only. */
export interface SetTranslations {
  readonly pairs: readonly { readonly pageId: string; readonly ofId: string | null }[]
}

export const setTranslations: ChangeKind<SetTranslations> = {
  title({ pairs }, before) {
    const [first] = pairs
    if (pairs.length > 1 || !first) return `what ${count(pairs.length, 'page')} are in other languages`
    return first.ofId === null
      ? `${quoted(before, first.pageId)} in its own language only`
      : `${quoted(before, first.pageId)} as a translation of ${quoted(before, first.ofId)}`
  },
  question({ pairs }, before) {
    const [first] = pairs
    const many = pairs.length > 1 || !first
    return {
      name: 'Other languages',
      what: many
        ? `${count(pairs.length, 'page')} are each the same as one in another language`
        : first.ofId === null
          ? `${quoted(before, first.pageId)} is in its own language only`
          : `${quoted(before, first.pageId)} and ${quoted(before, first.ofId)} are one page in two languages`,
      go: 'Say so',
      leave: 'Leave it',
    }
  },
  apply(site, { pairs }) {
    const tree = treeOf(site)
    const spoken = languagesOf(site)
    const [first] = pairs
    // Of many, those that fit are said; of one it is told why it does not.
    if (first && pairs.length === 1) {
      const page = tree.byId.get(first.pageId)
      const of = first.ofId === null ? page : tree.byId.get(first.ofId)
      if (!page || !of) return gone('The page')
      if (page !== of && spoken.of(page) === spoken.of(of))
        return refuse(
          'invalid',
          `Both pages are in ${languageName(spoken.of(page))}. Say first what one of them is in.`,
        )
    }
    const alone = new Set(pairs.flatMap(({ pageId, ofId }) => (ofId === null ? [pageId] : [])))
    const pages = site.pages.map((page) =>
      alone.has(page.id) && page.translationSet !== null
        ? { ...page, translationSet: null, translatedFrom: null }
        : page,
    )
    const said = pairs.flatMap(({ pageId, ofId }) => (ofId === null ? [] : [{ pageId, ofId }]))
    const after = { ...site, pages: withTranslations({ ...site, pages }, said) }
    // Whoever says that they are the same says that they say the same, as far as nothing else was held before.
    const named = new Set(said.flatMap(({ pageId, ofId }) => [pageId, ofId]))
    const isAnew = (page: Page) =>
      named.has(page.id) && page.translatedFrom?.ofId !== originalOf(after, page)?.id
    const anew = new Set(after.pages.filter(isAnew).map(({ id }) => id))
    return { site: { ...after, pages: heldAgainstOriginals(after, anew) } }
  },
}
