import {
  guessPlanForm,
  matchPlan,
  planDifferences,
  type PlanDifferences,
  type PlanForm,
  type PlanMatch,
  type PlanRefusal,
  planSite,
  readPlan,
  type SitePlan,
} from '#core/plan'
import type { Site } from '#core/site'
import type { PlannedPage } from '../new-page'
import { correctOwnNames, plannedFrom, refuseLabels } from './new-site'

/** A plan that was typed over or read over a site's own. */
export interface EditedPlan {
  readonly text: string
  readonly format: PlanForm
  /** What the author settled: line index to page id (null: a new page). */
  readonly fixed: ReadonlyMap<number, string | null>
}

/** How an edited plan is taken: page by page, what that changes, and what was assumed in reading it. */
export interface UnderstoodPlan {
  readonly home: SitePlan['home']
  readonly notes: readonly string[]
  readonly top: readonly PlannedPage[]
  readonly differences: PlanDifferences
  readonly marks: readonly LineMark[]
}

/** What becomes of the page a line of the text stands for; the line counts from 1. */
export interface LineMark {
  readonly line: number
  readonly word: string
}

/** Reads an edited plan against the site it is to replace the plan of; refused where it cannot be read. */
export function understandPlan(
  site: Pick<Site, 'pages' | 'homeId' | 'name' | 'scheme' | 'language'>,
  { text, format, fixed }: EditedPlan,
  newId: () => string,
): UnderstoodPlan | { readonly refusal: PlanRefusal } {
  // What was pasted over a plan may be another list.
  const outline = readPlan(format === 'text' ? guessPlanForm(text) : format, text)
  if ('refusal' in outline) return outline
  const refusal = refuseLabels(outline)
  if (refusal) return { refusal }
  const { home, top, notes } = correctOwnNames(planSite(outline, site.name, homeLabelOf(site)), site)
  const match = matchPlan(site, top, fixed)
  const differences = planDifferences(site, match)
  // The home page's line, where there is one, is the first.
  const lineNumbers = outline.lineNumbers.slice(outline.lineNumbers.length - match.lines.length)
  return {
    home,
    notes,
    top: plannedFrom(match.lines, newId),
    differences,
    marks: marksOf(match, differences, lineNumbers),
  }
}

/** The home page stays called as it is where a plan does not say it. */
const homeLabelOf = ({ pages, homeId, name }: Pick<Site, 'pages' | 'homeId' | 'name'>) =>
  pages.find(({ id }) => id === homeId)?.label ?? name

function marksOf(match: PlanMatch, differences: PlanDifferences, lineNumbers: readonly number[]): LineMark[] {
  const words = new Map<number, string>()
  const reordered = new Set(differences.reordered)
  match.lines.forEach(({ pageId }, line) => {
    if (pageId !== null && reordered.has(pageId)) words.set(line, 'moved')
  })
  for (const { line } of differences.added) words.set(line, 'new')
  for (const { line } of differences.moved) words.set(line, 'moved')
  for (const { line } of differences.renamed) words.set(line, words.has(line) ? 'renamed, moved' : 'renamed')
  return [...words].map(([line, word]) => ({ line: lineNumbers[line]!, word }))
}
