import { gone, refuse } from '../../edited'
import { type ChangeKind, templateCalled } from '../../kind'

/** Removes a template. Pages that were made with it are made with what their place has. */
export interface RemoveTemplate {
  readonly templateId: string
}

export const removeTemplate: ChangeKind<RemoveTemplate> = {
  manages: true,
  title: ({ templateId }, before) => `removing the template ${templateCalled(before, templateId)}`,
  question: ({ templateId }, before) => ({
    name: 'Remove a template',
    what: `The template ${templateCalled(before, templateId)} goes`,
    go: 'Remove it',
    leave: 'Keep it',
  }),
  apply(site, { templateId }) {
    const template = site.templates.find((one) => one.id === templateId)
    if (!template) return gone('The template')
    if (site.templateId === templateId)
      return refuse('invalid', `“${template.name}” is what pages are made with where nothing else is said.`)
    const above = site.templates.find((one) => one.basedOn === templateId)
    if (above) return refuse('invalid', `“${above.name}” is based on “${template.name}”.`)
    const without = (id: string | null) => (id === templateId ? null : id)
    return {
      site: {
        ...site,
        templates: site.templates.filter((one) => one !== template),
        pages: site.pages.map((page) =>
          page.templateId === templateId || page.belowTemplateId === templateId
            ? {
                ...page,
                templateId: without(page.templateId),
                belowTemplateId: without(page.belowTemplateId),
              }
            : page,
        ),
      },
    }
  },
}
