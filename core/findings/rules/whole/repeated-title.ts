import type { Page } from '#core/site'
import { pageTitle } from '#core/template'
import { type Found, inPage, type Rule } from '../../rule'

/** Two pages with one title look the same in tabs, bookmarks and search pages. */
export const repeatedTitle: Rule = {
  id: 'repeated-title',
  grade: 'hinders',
  title: 'Titles used twice',
  why: 'In a row of tabs or a list of results the two cannot be told apart.',
  reads: 'site',
  find({ pages, names, tree, languages }) {
    const first = new Map<string, Page>()
    return pages.flatMap((page): Found[] => {
      const title = pageTitle(page)
      // In another language it may well be called the same.
      const key = `${languages.of(page)} ${title.toLowerCase()}`
      const other = first.get(key)
      if (!other) {
        first.set(key, page)
        return []
      }
      const section = page.parentId === null ? undefined : tree.byId.get(page.parentId)
      const value = section ? `${title} – ${section.label}` : null
      return [
        {
          place: inPage(page),
          what: `It has the same title as ${names.pages.get(other.id)!.path}: “${title}”.`,
          mends:
            value === null
              ? []
              : [
                  {
                    words: `Title it “${value}”`,
                    change: { kind: 'setPageText', pageId: page.id, field: 'title', value, was: page.title },
                  },
                ],
        },
      ]
    })
  },
}
