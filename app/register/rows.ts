import { branchOf, type Place, type Tree } from '#core/plan'

/** A new page that is being typed and is not part of the site yet. */
export interface Draft {
  readonly parentId: string | null
  readonly after: string | null
}

export type Row =
  | {
      readonly kind: 'page'
      readonly place: Place
      readonly hasChildren: boolean
      readonly open: boolean
      /** Pages below that are folded away. */
      readonly hidden: number
    }
  | { readonly kind: 'draft'; readonly depth: number; readonly draft: Draft }

/** The rows of the register from the top: the open part of the tree, with the draft where it would stand. */
export function rowsOf(tree: Tree, closed: ReadonlySet<string>, draft: Draft | null): Row[] {
  const rows: Row[] = []
  let hiddenBelow: number | null = null
  for (const place of tree.places) {
    if (hiddenBelow !== null && place.depth > hiddenBelow) continue
    hiddenBelow = null
    const hasChildren = tree.childrenOf(place.page.id).length > 0
    const open = hasChildren && !closed.has(place.page.id)
    if (hasChildren && !open) hiddenBelow = place.depth
    const hidden = hasChildren && !open ? branchOf(tree, place.page.id).length - 1 : 0
    rows.push({ kind: 'page', place, hasChildren, open, hidden })
  }
  if (!draft) return rows
  const depth = draft.parentId === null ? 0 : (tree.placeOf.get(draft.parentId)?.depth ?? -1) + 1
  const anchor = draft.after ?? draft.parentId
  let at =
    anchor === null ? 0 : rows.findIndex((row) => row.kind === 'page' && row.place.page.id === anchor) + 1
  // Behind all that stands under the sibling it follows.
  if (draft.after !== null)
    for (let row = rows[at]; row && row.kind === 'page' && row.place.depth > depth; row = rows[at]) at++
  rows.splice(at, 0, { kind: 'draft', depth, draft })
  return rows
}

/** Where a page goes when it is moved one level in, or null. */
export function indented(
  tree: Tree,
  homeId: string,
  spot: { id: string | null; parentId: string | null; after: string | null },
) {
  const siblings = tree.childrenOf(spot.parentId).filter((page) => page.id !== homeId)
  const index =
    spot.id === null
      ? siblings.findIndex((page) => page.id === spot.after) + 1
      : siblings.findIndex((page) => page.id === spot.id)
  const above = siblings[index - 1]
  if (!above) return null
  const below = tree.childrenOf(above.id)
  return { parentId: above.id, after: below[below.length - 1]?.id ?? null }
}

/** Where a page goes when it is moved one level out, or null at the top. */
export function outdented(tree: Tree, parentId: string | null) {
  const parent = parentId === null ? undefined : tree.byId.get(parentId)
  return parent ? { parentId: parent.parentId, after: parent.id } : null
}

/** Pages that stand one after another under one page, and can be moved together. */
export interface Block {
  readonly parentId: string | null
  readonly first: string
  readonly last: string
}

/** Chosen pages as a block, or null when they stand apart. */
export function blockOf(tree: Tree, pageIds: readonly string[]): Block | null {
  const [first] = pageIds
  const page = first === undefined ? undefined : tree.byId.get(first)
  if (!page || first === undefined) return null
  const siblings = tree.childrenOf(page.parentId)
  const at = siblings.findIndex((one) => one.id === first)
  const together = pageIds.every((id, index) => siblings[at + index]?.id === id)
  return together ? { parentId: page.parentId, first, last: pageIds[pageIds.length - 1]! } : null
}

/** Where a block goes when it changes places with the sibling before or after it, or null. */
export function shifted(tree: Tree, homeId: string, block: Block, by: -1 | 1) {
  const trial = tree.byId.get(block.first)?.trial
  const siblings = tree.childrenOf(block.parentId).filter((one) => one.id !== homeId && one.trial === trial)
  const first = siblings.findIndex((one) => one.id === block.first)
  const last = siblings.findIndex((one) => one.id === block.last)
  const passed = by === 1 ? siblings[last + 1] : siblings[first - 1]
  if (first < 0 || !passed) return null
  const after = by === 1 ? passed : siblings[first - 2]
  return { parentId: block.parentId, after: after?.id ?? null }
}
