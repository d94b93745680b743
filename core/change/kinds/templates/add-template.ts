import { cleanLabel } from '#core/plan'
import type { Hash } from '#core/site'
import { gone, refuse } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Adds a template, based on another or by itself. */
export interface AddTemplate {
  readonly templateId: string
  readonly name: string
  readonly source: Hash
  readonly basedOn: string | null
  /** Pages that are made with it from now on, with all below them that nothing else is said of. */
  readonly forPages?: readonly string[]
}

/** As a window asks for it. */
export interface WriteNewTemplate extends Omit<AddTemplate, 'source'> {
  readonly text: string
}

export const addTemplate: ChangeKind<AddTemplate, WriteNewTemplate> = {
  manages: true,
  shown: () => null,
  title: ({ name }) => `the new template “${name}”`,
  apply(site, { templateId: id, name: typed, source, basedOn, forPages = [] }) {
    const name = cleanLabel(typed)
    const refusal = nameRefusal(name)
    if (refusal) return refusal
    if (site.templates.some((one) => one.id === id)) return { site }
    if (basedOn !== null && !site.templates.some((one) => one.id === basedOn)) return gone('The template')
    if (site.templates.length >= mostTemplates)
      return refuse('invalid', `A site has at most ${mostTemplates} templates.`)
    const templates = [...site.templates, { id, name, source, basedOn }]
    if (forPages.length === 0) return { site: { ...site, templates } }
    const chosen = new Set(forPages)
    const pages = site.pages.map((page) =>
      chosen.has(page.id) ? { ...page, templateId: id, belowTemplateId: id } : page,
    )
    return { site: { ...site, templates, pages } }
  },
}

/** Templates of one site: far more than anybody keeps apart. */
export const mostTemplates = 100
const longestName = 100

/** Why a name is none for a template; null where it is one. */
export function nameRefusal(name: string) {
  if (name === '') return refuse('invalid', 'A template needs a name.')
  if (name.length > longestName)
    return refuse('invalid', `A template’s name has at most ${longestName} letters.`)
  return null
}
