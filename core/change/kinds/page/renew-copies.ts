import { languagesOf, originalOf, translationsOf, treeOf } from '#core/plan'
import { count, type Hash, type Page, type Site } from '#core/site'
import { elsewhere, gone, refuse } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Has pages that are still to be translated take the text that their originals hold now. */
export interface RenewCopies {
  /** Pages with their originals, and what each held in the slot `content` when it was asked for. */
  readonly copies: readonly { readonly pageId: string; readonly ofId: string; readonly was: Hash }[]
}

/** Pages in the language of a page that others are in it: where references of copies in it lead. */
export function leadsInto(site: Site, language: string): Readonly<Record<string, string>> {
  const { of } = languagesOf(site)
  const { inLanguage } = translationsOf(site)
  return Object.fromEntries(
    site.pages.flatMap((page) => {
      const there = of(page) === language ? undefined : inLanguage(page, language)
      return there ? [[page.id, there.id]] : []
    }),
  )
}

export const renewCopies: ChangeKind<RenewCopies> = {
  // References of what is taken are led to pages in the language by the server.
  shown: () => null,
  copies: ({ copies }) => Object.fromEntries(copies.map(({ pageId, ofId }) => [ofId, pageId])),
  leads({ copies: [first] }, before) {
    const page = first && treeOf(before).byId.get(first.pageId)
    return page ? leadsInto(before, languagesOf(before).of(page)) : {}
  },
  title: ({ copies: [first, ...more] }, before) =>
    first && more.length === 0
      ? `what is to be translated in ${quoted(before, first.pageId)} anew`
      : `what is to be translated in ${count(more.length + 1, 'page')} anew`,
  apply(site, { copies }) {
    const { byId } = treeOf(site)
    const { of } = languagesOf(site)
    const renewed = new Map<string, Page>()
    for (const { pageId, ofId, was } of copies) {
      const [page, original] = [byId.get(pageId), byId.get(ofId)]
      if (!page || !original) return gone('The page')
      if (originalOf(site, page) !== original)
        return refuse('invalid', `“${page.label}” is no translation of “${original.label}” any more.`)
      if (of(page) !== of(byId.get(copies[0]!.pageId)!))
        return refuse('invalid', 'Pages in one language are renewed at a time.')
      if (page.content !== was) return elsewhere(`The text of “${page.label}”`, page.content)
      const { content } = original
      // What stands beside the text may be translated already.
      const { slots } = page.translatedFrom ?? original
      renewed.set(pageId, { ...page, content, translatedFrom: { ofId, content, slots } })
    }
    return { site: { ...site, pages: site.pages.map((page) => renewed.get(page.id) ?? page) } }
  },
}
