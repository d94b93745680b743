import { checkDate, readLabelDate } from '#core/language'
import { homeNameOf, type Page } from '#core/site'

/** A date that a name begins with: `2031`, `2031-06`, `2031-06-14`, `20310614`; parted by any sign that names have. */
const inFront = /^((?:19|20|21)\d{2})(?:[-_.]?(\d{2})(?:[-_.]?(\d{2}))?)?(?![\dA-Za-z])/

/** The date in front of the name of a page's file, or of the folder that it is the home page of; null where there is none. */
function dateInName(path: string): string | null {
  const steps = path.split('/')
  const name = homeNameOf(path) === null ? steps.at(-1)!.replace(/\.\w+$/, '') : (steps.at(-2) ?? '')
  const match = inFront.exec(name)
  return match && checkDate([match[1], match[2], match[3]].filter((part) => part !== undefined).join('-'))
}

/**
 * Pages of which those carry dates that stand below one whose pages are mostly named with a date in front: that in the name,
 * where the label does not say it as well.
 * @param pathOf where a page stood
 * @param languageOf what a page is in
 * @param isDatedThere whether a page that was there before has its pages dated
 */
export function withDates<P extends Pick<Page, 'id' | 'parentId' | 'label'>>(
  pages: readonly P[],
  pathOf: (id: string) => string,
  languageOf: (page: P) => string,
  isDatedThere: (id: string) => boolean = () => false,
): (P & Pick<Page, 'dated' | 'date'>)[] {
  const dates = new Map(pages.map(({ id }) => [id, dateInName(pathOf(id))]))
  const counts = new Map<string | null, { all: number; dated: number }>()
  for (const { id, parentId } of pages) {
    const count = counts.get(parentId) ?? { all: 0, dated: 0 }
    counts.set(parentId, count)
    count.all += 1
    if (dates.get(id) !== null) count.dated += 1
  }
  const isDated = (id: string | null) => {
    if (id !== null && isDatedThere(id)) return true
    const { all, dated } = (id !== null && counts.get(id)) || { all: 0, dated: 0 }
    return dated > 1 && dated * 2 > all
  }
  return pages.map((page) => {
    const date = isDated(page.parentId) ? dates.get(page.id)! : null
    const isSaid = date !== null && readLabelDate(page.label, languageOf(page))?.date === date
    return { ...page, dated: isDated(page.id), date: isSaid ? null : date }
  })
}
