import { resolveReference } from '#core/links'
import type { Found, Rule } from '../../rule'

/** Links of one text that say the same and lead to different places (WCAG 2.2 §2.4.4). */
export const sameWords: Rule = {
  id: 'same-words',
  grade: 'detail',
  title: 'Links that say the same and lead elsewhere',
  why: 'In a list of all links of the page nobody can tell which of them to take.',
  reads: 'references',
  find(_, { from, at, links }, { names, homeFile }) {
    const first = new Map<string, string>()
    const found: Found[] = []
    for (const link of links) {
      const words = link.words.toLowerCase()
      if (words === '') continue
      const target = resolveReference(link.href, from, names, homeFile)
      const to = 'path' in target ? target.path + target.suffix : link.href
      const other = first.get(words)
      if (other === undefined) first.set(words, to)
      else if (other !== to)
        found.push({
          mark: `${words} ${to}`,
          place: at(link),
          what: `“${link.words}” leads to ${to} here, and to ${other} further up.`,
        })
    }
    return found
  },
}
