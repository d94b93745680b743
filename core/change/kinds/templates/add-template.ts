import { cleanLabel } from '#core/plan'
import type { Hash, Template } from '#core/site'
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
  /** Templates that are based on it from now on. */
  readonly rebased?: readonly string[]
  /** Copies of others that are based on it. */
  readonly copies?: readonly TemplateCopy[]
}

/** A template as another is, but for what it is based on, and the pages that are made with it from now on. */
export interface TemplateCopy {
  readonly templateId: string
  readonly of: string
  readonly name: string
  readonly forPages: readonly string[]
}

/** As a window asks for it. */
export interface WriteNewTemplate extends Omit<AddTemplate, 'source'> {
  readonly text: string
}

export const addTemplate: ChangeKind<AddTemplate, WriteNewTemplate> = {
  manages: true,
  shown: () => null,
  title: ({ name }) => `the new template “${name}”`,
  apply(site, { templateId: id, name: typed, source, basedOn, forPages = [], rebased = [], copies = [] }) {
    const name = cleanLabel(typed)
    const called = [name, ...copies.map((copy) => cleanLabel(copy.name))]
    for (const one of called) {
      const refusal = nameRefusal(one)
      if (refusal) return refusal
    }
    if (site.templates.some((one) => one.id === id)) return { site }
    const byId = new Map(site.templates.map((one) => [one.id, one]))
    const needed = [...(basedOn === null ? [] : [basedOn]), ...rebased, ...copies.map(({ of }) => of)]
    if (needed.some((one) => !byId.has(one))) return gone('The template')
    if (site.templates.length + called.length > mostTemplates)
      return refuse('invalid', `A site has at most ${mostTemplates} templates.`)
    const added: Template[] = [
      { id, name, source, basedOn },
      ...copies.map((copy, index): Template => {
        return { ...byId.get(copy.of)!, id: copy.templateId, name: called[index + 1]!, basedOn: id }
      }),
    ]
    const templates = [
      ...site.templates.map((one) => (rebased.includes(one.id) ? { ...one, basedOn: id } : one)),
      ...added,
    ]
    const chosen = new Map([
      ...forPages.map((pageId) => [pageId, id] as const),
      ...copies.flatMap((copy) => copy.forPages.map((pageId) => [pageId, copy.templateId] as const)),
    ])
    if (chosen.size === 0) return { site: { ...site, templates } }
    const pages = site.pages.map((page) => {
      const templateId = chosen.get(page.id)
      return templateId === undefined ? page : { ...page, templateId, belowTemplateId: templateId }
    })
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
