import { inPage, type Rule } from '../../rule'

/** Two pages of one label, in one language. */
export const sameLabel: Rule = {
  id: 'same',
  grade: 'detail',
  title: 'Labels used twice',
  why: 'In menus and lists the two look the same.',
  reads: 'site',
  find({ pages, languages }) {
    const seen = new Set<string>()
    return pages.flatMap((page) => {
      const key = `${languages.of(page)} ${page.label.toLowerCase()}`
      const isSecond = seen.has(key)
      seen.add(key)
      return isSecond
        ? [
            {
              place: inPage(page),
              what: `There is another page called “${page.label}”; in menus and lists the two look the same.`,
            },
          ]
        : []
    })
  },
}
