import { resolveReference } from '#core/links'
import type { Rule } from '../../rule'

/** A link in a page that leads to that page, and does not say so to those who do not see where they are. */
export const linkToItself: Rule = {
  id: 'link-to-itself',
  grade: 'detail',
  title: 'Links that lead to the page they stand on',
  why: 'Who follows one sees the same page again, and takes it that something is broken.',
  reads: 'references',
  find: (_, { from, at, links }, { names, homeFile }) =>
    links.flatMap((link) => {
      if (link.isCurrent) return []
      const target = resolveReference(link.href, from, names, homeFile)
      // A template has no page of its own.
      const isOwn = from !== '' && target.kind === 'page' && target.path === from && target.suffix === ''
      if (!isOwn) return []
      return [{ mark: link.href, place: at(link), what: `“${link.words}” leads to this page itself.` }]
    }),
}
