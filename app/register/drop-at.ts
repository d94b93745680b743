import { branchOf, type Tree } from '#core/plan'
import type { Page } from '#core/site'
import type { Row } from './rows'

/** Where dragged pages would stand when they are let go of. */
export interface Drop {
  /** Rows above the place. */
  readonly gap: number
  readonly depth: number
  readonly parentId: string | null
  readonly after: string | null
}

/**
 * Where branches go that are let go of between two rows; null where they cannot, or stand already. The level is as wished, from
 * that of the row below to one under the row above. At the top level trial pages stay at the end, as others stay before them.
 * @param roots branches that are dragged, none of which stands under another
 * @param gap rows above the place
 * @param wished the level pointed at, 0 at the top
 */
export function dropAt(
  tree: Tree,
  homeId: string,
  rows: readonly Row[],
  roots: readonly string[],
  gap: number,
  wished: number,
): Drop | null {
  if (roots.includes(homeId)) return null
  const moving = new Set(roots.flatMap((id) => branchOf(tree, id)).map((page) => page.id))
  const pages = rows.flatMap((row) => (row.kind === 'page' ? [row] : []))
  const stays = ({ place }: (typeof pages)[number]) => !moving.has(place.page.id)
  const at = Math.max(1, Math.min(gap, pages.length))
  const above = pages.slice(0, at).findLast(stays)!
  const below = pages.slice(at).find(stays)
  const isFirst = above.place.page.id === homeId
  const deepest = isFirst ? 0 : above.place.depth + 1
  const depth = Math.min(deepest, Math.max(wished, below?.place.depth ?? 0))
  if (depth > above.place.depth) {
    const { page } = above.place
    // Behind what is folded away, in front of what is in sight.
    const last = above.open ? undefined : tree.childrenOf(page.id).findLast(({ id }) => !moving.has(id))
    return drop(at, page.id, last?.id ?? null)
  }
  let before: Page | null = isFirst ? null : above.place.page
  for (let level = above.place.depth; before && level > depth; level--)
    before = tree.byId.get(before.parentId!)!
  const parentId = before?.parentId ?? null
  const isTrial = tree.byId.get(roots[0]!)!.trial
  if (parentId === null && (before?.trial ?? false) !== isTrial) {
    const end = pages.findIndex(({ place }) => place.depth === 0 && place.page.trial)
    const last = tree.childrenOf(null).findLast(({ id, trial }) => !trial && id !== homeId && !moving.has(id))
    return drop(end < 0 ? pages.length : end, null, isTrial ? null : (last?.id ?? null))
  }
  return drop(at, parentId, before?.id ?? null)

  function drop(gap: number, parentId: string | null, after: string | null): Drop | null {
    const siblings = tree.childrenOf(parentId).filter(({ id }) => id !== homeId)
    const then = siblings.filter(({ id }) => !moving.has(id))
    then.splice(then.findIndex(({ id }) => id === after) + 1, 0, ...roots.map((id) => tree.byId.get(id)!))
    if (parentId === null) then.sort((a, b) => Number(a.trial) - Number(b.trial))
    const isThere = then.length === siblings.length && then.every((page, index) => page === siblings[index])
    return isThere ? null : { gap, depth, parentId, after }
  }
}
