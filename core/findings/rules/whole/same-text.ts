import { emptyHash, type Page } from '#core/site'
import { inPage, type Rule } from '../../rule'

/** Pages that say the same, to the letter. */
export const sameText: Rule = {
  id: 'same-text',
  grade: 'hinders',
  title: 'Pages with one and the same text',
  why: 'A visitor thinks that the link led nowhere, and search engines show one of them.',
  reads: 'site',
  find({ pages, translations }) {
    const first = new Map<string, Page>()
    return pages.flatMap((page) => {
      if (page.content === emptyHash) return []
      const other = first.get(page.content)
      if (!other) {
        first.set(page.content, page)
        return []
      }
      // A copy that is to be translated is told as such.
      if (translations.of(page).includes(other)) return []
      return [{ place: inPage(page), what: `It says what “${other.label}” says, letter by letter.` }]
    })
  },
}
