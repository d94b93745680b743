import type { Page } from '#core/site'

type Placed = Pick<Page, 'id' | 'parentId'>

/**
 * Which template pages are made with, said as high in the plan as it holds: what is added to a section later comes in
 * the frame that its pages have.
 * @param pages in any order
 * @param templateOf the template of each
 * @param around what a page under a page that is none of these is made with where nothing is said
 * @param isFrame false for a template that no page is begun with: one that gives out whole pages
 */
export function templatesBelow<P extends Placed>(
  pages: readonly P[],
  templateOf: (id: string) => string,
  around: (parentId: string | null) => string,
  isFrame: (templateId: string) => boolean,
): (P & Pick<Page, 'templateId' | 'belowTemplateId'>)[] {
  const below = new Map<string, Map<string, number>>()
  for (const { id, parentId } of pages) {
    if (parentId === null || !isFrame(templateOf(id))) continue
    const counts = below.get(parentId) ?? new Map<string, number>()
    below.set(parentId, counts)
    counts.set(templateOf(id), (counts.get(templateOf(id)) ?? 0) + 1)
  }
  const byId = new Map(pages.map((page) => [page.id, page]))
  /** What a page's place says that it is made with, and what the page says of those below it. */
  const given = new Map<string, { readonly place: string; readonly most: string }>()
  const giveTo = (page: P): void => {
    const place =
      (page.parentId === null ? undefined : given.get(page.parentId)?.most) ?? around(page.parentId)
    const [most = place] = [...(below.get(page.id) ?? [])].sort((a, b) => b[1] - a[1])[0] ?? []
    given.set(page.id, { place, most })
  }
  for (const page of pages) {
    // Those above it first.
    const above: P[] = []
    for (
      let at: P | undefined = page;
      at && !given.has(at.id);
      at = at.parentId === null ? undefined : byId.get(at.parentId)
    )
      // prettier-ignore
      above.push(at)
    while (above.length > 0) giveTo(above.pop()!)
  }
  return pages.map((page) => {
    const { place, most } = given.get(page.id)!
    const own = templateOf(page.id)
    return { ...page, templateId: own === place ? null : own, belowTemplateId: most === place ? null : most }
  })
}
