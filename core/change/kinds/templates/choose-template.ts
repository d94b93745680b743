import { gone } from '../../edited'
import { type ChangeKind, several, templateCalled } from '../../kind'

/** Says with which template pages are made, or those below them. */
export interface ChooseTemplate {
  readonly pageIds: readonly string[]
  readonly of: 'page' | 'below'
  /** null: as their place has it. */
  readonly templateId: string | null
}

export const chooseTemplate: ChangeKind<ChooseTemplate> = {
  title: ({ pageIds, of }, before) =>
    `another template for ${of === 'below' ? 'the pages below ' : ''}${several(before, pageIds)}`,
  question({ pageIds, of, templateId }, before) {
    const which = several(before, pageIds)
    const whom =
      of === 'below' ? `Pages below ${which} are` : `${which} ${pageIds.length === 1 ? 'is' : 'are'}`
    return {
      name: 'Template',
      what: `${whom} made ${templateId === null ? 'as their place has it' : `with ${templateCalled(before, templateId)}`}`,
      go: 'Use it',
      leave: 'Leave it',
    }
  },
  apply(site, { pageIds, of, templateId }) {
    if (templateId !== null && !site.templates.some((one) => one.id === templateId))
      return gone('The template')
    const field = of === 'page' ? 'templateId' : 'belowTemplateId'
    const ids = new Set(pageIds)
    return {
      site: {
        ...site,
        pages: site.pages.map((page) =>
          ids.has(page.id) && page[field] !== templateId ? { ...page, [field]: templateId } : page,
        ),
      },
    }
  },
}
