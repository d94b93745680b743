import { cleanLabel, mostLevels } from '#core/plan'
import { longestLabel } from '#core/change'
import type { PlannedPage } from './plan-of'

/** A page's place in a plan as its author corrected it; pages in reading order. */
export interface CorrectedPage {
  /** Where it stood, from the top of the site. */
  readonly path: string
  readonly label: string
  /** 0 at the top. */
  readonly depth: number
}

/**
 * A plan that was found, as its author corrected it. The home page stays in front and alone; a page that is no file
 * any more is passed over, and one that the correction does not name stays below what it was found below.
 * @param depth more than one deeper than the line before is one deeper
 */
export function correctPlan(
  found: readonly PlannedPage[],
  homeId: string,
  corrected: readonly CorrectedPage[],
  idOf: ReadonlyMap<string, string>,
): PlannedPage[] {
  const byId = new Map(found.map((page) => [page.id, page]))
  const placed = new Map<string, PlannedPage>()
  const labelled = (page: PlannedPage, label: string): PlannedPage => ({
    ...page,
    label: cleanLabel(label).slice(0, longestLabel).trim() || page.label,
  })
  /** The pages above the next line, the nearest last. */
  const above: string[] = []
  for (const { path, label, depth } of corrected) {
    const id = idOf.get(path)
    const page = id === undefined ? undefined : byId.get(id)
    if (!page || placed.has(page.id)) continue
    if (page.id === homeId) {
      placed.set(homeId, { ...labelled(page, label), parentId: null })
      continue
    }
    above.length = Math.max(0, Math.min(depth, above.length, mostLevels - 1))
    placed.set(page.id, { ...labelled(page, label), parentId: above.at(-1) ?? null })
    above.push(page.id)
  }
  const depths = new Map<string, number>([[homeId, 0]])
  for (const { id, parentId } of placed.values())
    depths.set(id, parentId === null ? 0 : depths.get(parentId)! + 1)
  const rest: PlannedPage[] = []
  // Each after the page that it is below, however they were found.
  const below = new Map<string | null, PlannedPage[]>()
  for (const page of found)
    if (!placed.has(page.id) && page.id !== homeId) {
      // Nothing is below the home page.
      const parentId = page.parentId === homeId ? null : page.parentId
      const siblings = below.get(parentId)
      if (siblings) siblings.push({ ...page, parentId })
      else below.set(parentId, [{ ...page, parentId }])
    }
  const queue: (string | null)[] = [null, ...placed.keys()]
  for (let at = 0; at < queue.length; at++) {
    const parentId = queue[at]!
    for (const page of below.get(parentId) ?? []) {
      const depth = parentId === null ? 0 : (depths.get(parentId) ?? 0) + 1
      const fits = depth < mostLevels
      depths.set(page.id, fits ? depth : 0)
      rest.push(fits ? page : { ...page, parentId: null })
      queue.push(page.id)
    }
  }
  const home = placed.get(homeId) ?? byId.get(homeId)!
  placed.delete(homeId)
  return [home, ...placed.values(), ...rest]
}
