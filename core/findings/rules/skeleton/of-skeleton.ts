import { readSkeleton, type PlacedSkeleton } from '#core/template'
import type { Site, Template } from '#core/site'
import { type Found, type FindingContext, inTemplate } from '../../rule'

/** What a rule says of each template that is a whole document. */
export const ofSkeleton =
  (find: (skeleton: PlacedSkeleton, source: string, template: Template) => Omit<Found, 'place'> | null) =>
  ({ site, templates, sourceOf }: FindingContext): Found[] =>
    site.templates.flatMap((template) => {
      if (!templates || template.basedOn !== null) return []
      const source = sourceOf(template)
      // It gives out what pages hold as whole documents of their own.
      if (/^\s*<slot\b[^>]*>\s*(<\/slot>\s*)?$/i.test(source)) return []
      const skeleton = skeletonOf(source)
      const found = find(skeleton, source, template)
      return found ? [{ place: inTemplate(template), ...found }] : []
    })

let latest: { readonly source: string; readonly skeleton: PlacedSkeleton } | null = null

/** Rules come one after the other to the same few templates. */
export function skeletonOf(source: string): PlacedSkeleton {
  if (latest?.source !== source) latest = { source, skeleton: readSkeleton(source) }
  return latest.skeleton
}

/** The template that has the head of pages made with another: the first of those that it is based on. */
export function outermost(site: Site, templateId: string): Template | undefined {
  const byId = new Map(site.templates.map((one) => [one.id, one]))
  let template = byId.get(templateId)
  for (let steps = 0; template?.basedOn && steps < byId.size; steps++) template = byId.get(template.basedOn)
  return template
}

/** Languages of the pages that each template is for, those made with what is based on it too; the one of most first. */
export function languagesBy({ site, pages, languages, templates }: FindingContext): Map<Template, string[]> {
  const counts = new Map<Template, Map<string, number>>()
  const byId = new Map(site.templates.map((one) => [one.id, one]))
  // With one language there is nothing to count.
  if (!templates || languages.all.length === 1) return new Map()
  for (const page of pages) {
    let template = byId.get(templates.idOf(page))
    for (let steps = 0; template && steps <= byId.size; steps++) {
      const some = counts.get(template) ?? new Map<string, number>()
      counts.set(template, some)
      const language = languages.of(page)
      some.set(language, (some.get(language) ?? 0) + 1)
      template = template.basedOn === null ? undefined : byId.get(template.basedOn)
    }
  }
  return new Map(
    [...counts].map(([template, some]) => [
      template,
      [...some].sort(([, a], [, b]) => b - a).map(([language]) => language),
    ]),
  )
}
