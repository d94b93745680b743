import { tagTyped } from '#core/language'
import type { Page } from '#core/site'
import type { ReadPage } from './reading/read-page'

/** The language that a page says it is in, by its tag; null where it says none that is one. */
export const saidLanguage = ({ tops }: Pick<ReadPage, 'tops'>): string | null =>
  tagTyped(tops.get('html')?.attributes.get('lang')?.value ?? '')

/**
 * Pages in the order of their plan, each in the language that it says; one that says none is in that of its place.
 * @param around what pages that stand under none of them are in, by the page that they stand under
 */
export function inTheirLanguages<P extends Pick<Page, 'id' | 'parentId'>>(
  pages: readonly P[],
  saidBy: (id: string) => string | null,
  around: (parentId: string | null) => string,
): (P & { language: string | null })[] {
  const spoken = new Map<string, string>()
  return pages.map((page) => {
    const { id, parentId } = page
    const place = (parentId === null ? undefined : spoken.get(parentId)) ?? around(parentId)
    const language = saidBy(id) ?? place
    spoken.set(id, language)
    return { ...page, language: language === place ? null : language }
  })
}
