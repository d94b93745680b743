import { resolveReference } from '#core/links'
import { textsOfPage } from '#core/site'
import type { Entry } from '#core/template'
import { inPage, type Rule } from '../../rule'

/** A page that no menu lists and no other page leads to. */
export const unreachedPage: Rule = {
  id: 'unreached-page',
  grade: 'hinders',
  title: 'Pages that nothing leads to',
  why: 'A visitor comes there only with its address, and search engines hardly at all.',
  reads: 'site',
  find(context) {
    const { site, pages, names, homeFile, factsOf, templates } = context
    if (!templates) return []
    const reached = new Set([site.homeId])
    const take = (entries: readonly Entry[], from: string) => {
      for (const { page, below } of entries) {
        if (page.id !== from) reached.add(page.id)
        take(below, from)
      }
    }
    /** Parts that list the same on many pages are looked at once. */
    const seen = new Set<string>()
    for (const page of pages) {
      const from = names.pages.get(page.id)!.path
      const template = templates.of(page)
      for (const { part, attributes } of template.generated) {
        const depends = part.dependsOn?.(context, attributes, page)
        const key = `${part.name} ${JSON.stringify(attributes)} ${depends}`
        if (depends !== undefined && seen.has(key)) continue
        if (depends !== undefined) seen.add(key)
        take(part.entries(context, attributes, page), depends === undefined ? page.id : '')
      }
      const references = [
        ...textsOfPage(page).flatMap(({ hash }) =>
          factsOf(hash).references.map(({ href }) => [href, from] as const),
        ),
        ...(seen.has(templates.idOf(page)) ? [] : template.references.map(({ href }) => [href, ''] as const)),
      ]
      seen.add(templates.idOf(page))
      for (const [href, at] of references) {
        const target = resolveReference(href, at, names, homeFile)
        if (target.kind === 'page' && (at === '' || target.id !== page.id)) reached.add(target.id)
      }
    }
    return pages
      .filter(({ id }) => !reached.has(id))
      .map((page) => ({
        place: inPage(page),
        what: 'No menu lists this page, and no page leads to it.',
        ...(!page.inMenus && {
          mends: [
            {
              words: 'Put it in the menus',
              change: {
                kind: 'setPageFlag' as const,
                pageIds: [page.id],
                flag: 'inMenus' as const,
                value: true,
              },
            },
          ],
        }),
      }))
  },
}
