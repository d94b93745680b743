import { resolveReference } from '#core/links'
import { inTemplate, type Rule } from '../../rule'

/** A template from which nothing leads to the home page. */
export const headerHome: Rule = {
  id: 'header-home',
  grade: 'hinders',
  title: 'Pages from which nothing leads home',
  why: 'Who comes from a search engine into the middle of the site looks for the way to its beginning, at the top.',
  reads: 'site',
  find({ site, pages, templates, names, homeFile }) {
    if (!templates) return []
    const used = new Set(pages.filter(({ id }) => id !== site.homeId).map((page) => templates.idOf(page)))
    return site.templates.flatMap((template) => {
      if (!used.has(template.id)) return []
      const { references, generated } = templates.compiled(template.id)
      const leadsHome =
        references.some(({ href, holder }) => {
          if (holder !== 'a href') return false
          const target = resolveReference(href, '', names, homeFile)
          return target.kind === 'page' && target.id === site.homeId
        }) ||
        generated.some(({ part, attributes }) => part.name === 'site-trail' || attributes.home === 'first')
      return leadsHome
        ? []
        : [
            {
              place: inTemplate(template),
              what: 'Neither a link nor a trail of this template leads to the home page.',
            },
          ]
    })
  },
}
