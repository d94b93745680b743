import { newSite, readNewPlan } from '#core/change'
import { plainKit } from '#core/kit'
import { namesOf } from '#core/naming'
import { languagesOf, type PlanForm, type PlanRefusal, realPlaces, treeOf } from '#core/plan'
import { emptyHash, type Site } from '#core/site'

export type NewSiteGround = Pick<Site, 'name' | 'language' | 'scheme'>
export interface NewSiteQuestion {
  readonly text: string
  readonly format?: PlanForm
}

/** The site that a plan makes, as far as it is shown. */
export type NewSiteAnswer =
  | { readonly refusal: PlanRefusal }
  | {
      readonly pageCount: number
      readonly notes: readonly string[]
      readonly lines: readonly NewSiteLine[]
      readonly more: number
    }

export interface NewSiteLine {
  readonly label: string
  readonly depth: number
  /** Null for a trial page. */
  readonly path: string | null
  /** What it is in, where that is another language than the site's. */
  readonly language: string | null
}

const shownLines = 400

export function siteOfPlan(ground: NewSiteGround, question: NewSiteQuestion): NewSiteAnswer {
  const plan = readNewPlan(question, ground)
  if ('refusal' in plan) return plan
  let ids = 0
  const site = newSite({
    ...ground,
    id: '',
    plan,
    newId: () => String(++ids),
    emptyContent: emptyHash,
    // What templates and files say makes no difference to what pages are called.
    kit: plainKit({
      scheme: ground.scheme,
      template: emptyHash,
      style: { hash: emptyHash, sizeBytes: 0 },
    }),
  })
  const names = namesOf(site).pages
  const tree = treeOf(site)
  const languages = languagesOf(site)
  return {
    pageCount: realPlaces(tree).length,
    notes: plan.notes,
    lines: tree.places.slice(0, shownLines).map(({ page, depth, trial }) => ({
      label: page.label,
      depth: page.id === site.homeId ? -1 : depth,
      path: trial ? null : names.get(page.id)!.path,
      language: languages.of(page) === site.language ? null : languages.of(page),
    })),
    more: Math.max(0, tree.places.length - shownLines),
  }
}
