import { readLabelDate } from '#core/language'
import { inPage, type Rule } from '../../rule'

/** A section most of whose pages have a date in their labels, and that does not date them. */
export const datableSection: Rule = {
  id: 'datable-section',
  grade: 'detail',
  title: 'Sections whose pages could carry dates',
  why: 'Names that begin with a date sort by it, and lists of what is new and feeds know which page is the newest.',
  reads: 'site',
  find: ({ pages, tree, languages }) =>
    pages.flatMap((section) => {
      const below = tree.childrenOf(section.id).filter(({ trial }) => !trial)
      if (section.dated || below.length < 2) return []
      const dated = below.filter((page) => readLabelDate(page.label, languages.of(page)) !== null).length
      if (dated < 2 || dated * 2 <= below.length) return []
      return [
        {
          place: inPage(section),
          what: `${dated === below.length ? `All ${dated} pages` : `${dated} pages of ${below.length}`} below “${section.label}” have a date in their labels. If they carry it, names sort by it, and lists and feeds know what is new.`,
          mends: [
            {
              words: 'Have them carry dates',
              change: { kind: 'setPageFlag', pageIds: [section.id], flag: 'dated', value: true },
            },
          ],
        },
      ]
    }),
}
