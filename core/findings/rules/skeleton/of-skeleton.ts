import { readSkeleton, type PlacedSkeleton } from '#core/template'
import type { SaidOfPage } from '#core/markup'
import { count, type Site, type Template, textsOfPage } from '#core/site'
import { type Found, type FindingContext, inTemplate } from '../../rule'

/** What a rule says of each template that is a whole document. */
export const ofSkeleton =
  (
    find: (skeleton: PlacedSkeleton, source: string, template: Template) => Omit<Found, 'place'> | null,
    /** What is lacking in what it finds without a mark, and may be said by the texts of its pages, in a slot of the head. */
    said?: SaidOfPage,
  ) =>
  (context: FindingContext): Found[] => {
    const { site, templates, sourceOf } = context
    return site.templates.flatMap((template) => {
      if (!templates || template.basedOn !== null) return []
      const source = sourceOf(template)
      // It gives out what pages hold as whole documents of their own.
      if (/^\s*<slot\b[^>]*>\s*(<\/slot>\s*)?$/i.test(source)) return []
      const skeleton = skeletonOf(source)
      const found = find(skeleton, source, template)
      if (!found) return []
      // Of one that says it otherwise than it should there is more to tell.
      const lacking = said && found.mark === undefined && pagesLacking(context, template, said)
      if (lacking === 0) return []
      return [
        {
          place: inTemplate(template),
          ...found,
          ...(lacking && {
            what: `${found.what} ${count(lacking, 'page')} of it ${lacking === 1 ? 'does' : 'do'} not say it either.`,
            // Those that do would say it twice.
            mends: found.mends?.map((one) => ({ ...one, isOther: true as const })),
          }),
        },
      ]
    })
  }

/** Pages made with a template whose own texts do not say something; null where no page's do. */
function pagesLacking(
  { pages, site, templates, factsOf }: FindingContext,
  template: Template,
  said: SaidOfPage,
): number | null {
  const made = pages.filter((page) => outermost(site, templates!.idOf(page)) === template)
  const lacking = made.filter(
    (page) => !textsOfPage(page).some(({ hash }) => factsOf(hash).says?.includes(said)),
  )
  return lacking.length === made.length ? null : lacking.length
}

let latest: { readonly source: string; readonly skeleton: PlacedSkeleton } | null = null

/** Rules come one after the other to the same few templates. */
export function skeletonOf(source: string): PlacedSkeleton {
  if (latest?.source !== source) latest = { source, skeleton: readSkeleton(source) }
  return latest.skeleton
}

/** Templates that a template is based on, the nearest first. */
export function basesOf({ templates }: Pick<Site, 'templates'>, { basedOn }: Template): Template[] {
  const bases: Template[] = []
  for (let at = basedOn; at !== null && bases.length < templates.length;) {
    const base = templates.find(({ id }) => id === at)
    if (!base) break
    bases.push(base)
    at = base.basedOn
  }
  return bases
}

/** The template that has the head of pages made with another: the last of those that it is based on. */
export function outermost(site: Site, templateId: string): Template | undefined {
  const own = site.templates.find(({ id }) => id === templateId)
  return own && (basesOf(site, own).at(-1) ?? own)
}

/** Languages of the pages that each template is for, those made with what is based on it too; the one of most first. */
export function languagesBy({ site, pages, languages, templates }: FindingContext): Map<Template, string[]> {
  // With one language there is nothing to count.
  if (!templates || languages.all.length === 1) return new Map()
  const counts = new Map<Template, Map<string, number>>()
  const chains = new Map(site.templates.map((one) => [one.id, [one, ...basesOf(site, one)]]))
  for (const page of pages)
    for (const template of chains.get(templates.idOf(page)) ?? []) {
      const some = counts.get(template) ?? new Map<string, number>()
      counts.set(template, some)
      some.set(languages.of(page), (some.get(languages.of(page)) ?? 0) + 1)
    }
  return new Map(
    [...counts].map(([template, some]) => [
      template,
      [...some].sort(([, a], [, b]) => b - a).map(([language]) => language),
    ]),
  )
}
