import type { Hash } from '#core/site'
import { elsewhere, gone } from '../../edited'
import { type ChangeKind, templateCalled } from '../../kind'

/** Writes a template. */
export interface SetTemplate {
  readonly templateId: string
  readonly source: Hash
  readonly was: Hash
}

/** As a window asks for it. */
export interface WriteTemplate {
  readonly templateId: string
  readonly text: string
  readonly was: Hash
}

export const setTemplate: ChangeKind<SetTemplate, WriteTemplate> = {
  manages: true,
  shown: () => null,
  isTyped: true,
  title: ({ templateId }, before) => `a change of the template ${templateCalled(before, templateId)}`,
  apply(site, { templateId, source, was }) {
    const template = site.templates.find((one) => one.id === templateId)
    if (!template) return gone('The template')
    if (template.source !== was && template.source !== source)
      return elsewhere('The template', template.source)
    return {
      site: {
        ...site,
        templates: site.templates.map((one) => (one === template ? { ...one, source } : one)),
      },
    }
  },
}
