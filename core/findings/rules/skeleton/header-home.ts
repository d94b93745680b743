import { resolveReference } from '#core/links'
import type { Reference } from '#core/markup'
import { type Page, textsOfPage } from '#core/site'
import { inTemplate, type Rule } from '../../rule'

/** A template from which nothing leads to the home page. */
export const headerHome: Rule = {
  id: 'header-home',
  grade: 'hinders',
  title: 'Pages from which nothing leads home',
  why: 'Who comes from a search engine into the middle of the site looks for the way to its beginning, at the top.',
  reads: 'site',
  find({ site, pages, templates, names, homeFile, factsOf }) {
    if (!templates) return []
    const isHomeLink = (from: string, { href, holder }: Reference): boolean => {
      if (holder !== 'a href') return false
      const target = resolveReference(href, from, names, homeFile)
      return target.kind === 'page' && target.id === site.homeId
    }
    const leadsHomeItself = (page: Page): boolean => {
      const from = names.pages.get(page.id)!.path
      return textsOfPage(page).some(({ hash }) =>
        factsOf(hash).references.some((one) => isHomeLink(from, one)),
      )
    }
    const used = new Map<string, Page[]>()
    for (const page of pages) {
      if (page.id === site.homeId) continue
      const id = templates.idOf(page)
      const members = used.get(id)
      if (members) members.push(page)
      else used.set(id, [page])
    }
    return site.templates.flatMap((template) => {
      const members = used.get(template.id)
      if (!members) return []
      const { references, generated } = templates.compiled(template.id)
      const leadsHome =
        references.some((one) => isHomeLink('', one)) ||
        generated.some(({ part, attributes }) => part.name === 'site-trail' || attributes.home === 'first') ||
        // Where pages are kept whole, the way home stands in their texts.
        members.every(leadsHomeItself)
      return leadsHome
        ? []
        : [
            {
              place: inTemplate(template),
              what: 'Neither a link nor a trail of this template leads to the home page, nor do the texts of all its pages.',
            },
          ]
    })
  },
}
