import { cleanLabel } from '#core/plan'
import { mostBases, type Site } from '#core/site'
import { elsewhere, gone, refuse } from '../../edited'
import { type ChangeKind, templateCalled } from '../../kind'
import { nameRefusal } from './add-template'

/** Names a template anew, or bases it on another (or on none). */
export interface SetTemplateField {
  readonly templateId: string
  readonly field: 'name' | 'basedOn'
  readonly value: string | null
  readonly was: string | null
}

export const setTemplateField: ChangeKind<SetTemplateField> = {
  manages: true,
  title: ({ templateId, field }, before) =>
    field === 'name'
      ? `a new name for the template ${templateCalled(before, templateId)}`
      : `what ${templateCalled(before, templateId)} is based on`,
  question: ({ templateId, value }, before) => ({
    name: 'Base of a template',
    what: `The template ${templateCalled(before, templateId)} is ${value === null ? 'a whole document' : `based on ${templateCalled(before, value)}`}`,
    go: 'Make it so',
    leave: 'Leave it',
  }),
  apply(site, { templateId, field, value: typed, was }) {
    const template = site.templates.find((one) => one.id === templateId)
    if (!template) return gone('The template')
    const value = field === 'name' ? cleanLabel(typed ?? '') : typed
    if (template[field] !== was && template[field] !== value)
      return elsewhere(field === 'name' ? 'The template’s name' : 'What the template is based on', template[field]) // prettier-ignore
    const refusal = field === 'name' ? nameRefusal(value ?? '') : baseRefusal(site, templateId, value)
    if (refusal) return refusal
    return {
      site: {
        ...site,
        templates: site.templates.map((one) => (one === template ? { ...one, [field]: value } : one)),
      },
    }
  },
}

/** Why a template cannot be based on another; null where it can. */
function baseRefusal(site: Site, templateId: string, base: string | null) {
  const byId = new Map(site.templates.map((one) => [one.id, one]))
  let levels = 1
  for (let at = base; at !== null; at = byId.get(at)?.basedOn ?? null) {
    if (!byId.has(at)) return gone('The template')
    if (at === templateId)
      return refuse('invalid', `${templateCalled(site, templateId)} would be based on itself.`)
    levels += 1
  }
  // What is based on it goes deeper with it.
  const reach = (id: string): number =>
    1 + Math.max(0, ...site.templates.filter((one) => one.basedOn === id).map((one) => reach(one.id)))
  return levels + reach(templateId) - 1 > mostBases
    ? refuse('invalid', `At most ${mostBases} templates can be based on one another.`)
    : null
}
