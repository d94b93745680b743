import { generateNKeysBetween } from 'fractional-indexing'
import { treeOf } from '#core/plan'
import type { Site } from '#core/site'

/** Order keys for `count` pages that are to follow `after` under `parentId`. */
export function orderKeys(
  site: Site,
  parentId: string | null,
  after: string | null,
  count: number,
  moving?: Set<string>,
): string[] {
  const siblings = treeOf(site)
    .childrenOf(parentId)
    // The home page is shown first whatever its key: what follows it is the first of the others.
    .filter((page) => page.id !== site.homeId && !moving?.has(page.id))
    // By key alone: trial pages are shown last whatever theirs.
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.seq - b.seq))
  const at = after === null ? -1 : siblings.findIndex((page) => page.id === after)
  const low = siblings[at]?.order ?? null
  // Equal keys (two windows at once) leave no room between them, so the next larger one is taken.
  const high = siblings.slice(at + 1).find((page) => low === null || page.order > low)?.order ?? null
  return generateNKeysBetween(low, high, count)
}

/** The place a page may really stand: nothing stands under the home page or before it. */
export function settlePlace(site: Site, parentId: string | null, after: string | null) {
  const under = parentId === site.homeId ? null : parentId
  const first = under === null && after === null && treeOf(site).byId.get(site.homeId)?.parentId === null
  return { parentId: under, after: first ? site.homeId : after }
}
