import { resolveReference } from '#core/links'
import { textsOfPage } from '#core/site'
import { inSlot, type Rule } from '../../rule'

/** A link in a page that leads to that page. */
export const linkToItself: Rule = {
  id: 'link-to-itself',
  grade: 'detail',
  title: 'Links that lead to the page they stand on',
  why: 'Who follows one sees the same page again, and takes it that something is broken.',
  reads: 'page',
  find(page, { factsOf, names, homeFile }) {
    const from = names.pages.get(page.id)!.path
    return textsOfPage(page).flatMap(({ slot, hash }) =>
      factsOf(hash).links.flatMap((link) => {
        const target = resolveReference(link.href, from, names, homeFile)
        const isOwn = target.kind === 'page' && target.id === page.id && target.suffix === ''
        if (!isOwn) return []
        return [
          {
            mark: link.href,
            place: inSlot(page, slot, link),
            what: `“${link.words}” leads to this page itself.`,
          },
        ]
      }),
    )
  },
}
