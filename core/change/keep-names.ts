import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import type { Site } from '#core/site'

/**
 * Holds the names of pages still that the change was not about: when the older of two pages that
 * wanted one name is removed, the younger keeps the name it has been known by.
 */
export function keepUnrelatedNames(before: Site, after: Site): Site {
  // A name held still frees the one its page would have had, and a third page would take that: so
  // until nothing moves. Each round holds at least one more name.
  for (;;) {
    const next = keepOnce(before, after)
    if (next === after) return after
    after = next
  }
}

function keepOnce(before: Site, after: Site): Site {
  if (before.pages === after.pages) return after
  const were = namesOf(before).pages
  const treeBefore = treeOf(before)
  const treeAfter = treeOf(after)
  const become = namesOf(after).pages
  const keep = new Map<string, string>()
  for (const { page, trial } of treeAfter.places) {
    const was = were.get(page.id)
    const old = treeBefore.byId.get(page.id)
    if (!was || !old || trial || page.id === after.homeId || page.id === before.homeId) continue
    if (page.keptName !== null) continue
    if (become.get(page.id)!.stem === was.stem) continue
    // The page itself was renamed, moved or put in or out of trial: its new name is what was asked for.
    if (old.label !== page.label || old.parentId !== page.parentId || old.ownName !== page.ownName) continue
    const section = page.parentId === null ? undefined : treeAfter.byId.get(page.parentId)
    if (section && treeBefore.byId.get(section.id)?.dated !== section.dated) continue
    if (old.date !== page.date) continue
    if (old.trial !== page.trial || treeBefore.placeOf.get(page.id)?.trial) continue
    keep.set(page.id, was.stem)
  }
  if (keep.size === 0) return after
  return {
    ...after,
    pages: after.pages.map((page) => {
      const keptName = keep.get(page.id)
      return keptName === undefined ? page : { ...page, keptName }
    }),
  }
}
