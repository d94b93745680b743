import { readSkeleton, type PlacedSkeleton } from '#core/template'
import type { Template } from '#core/site'
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
