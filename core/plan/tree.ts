import type { Page, Site } from '#core/site'

/** A page where it stands in the tree. */
export interface Place {
  readonly page: Page
  /** 0 at the top level. */
  readonly depth: number
  /** Outline number such as `3.3.1`; '' for the home page and for trial pages. */
  readonly number: string
  /** True when the page or one above it is a trial page. */
  readonly trial: boolean
}

/** The pages of a site as a tree, in reading order. Trial pages of the top level come last. */
export interface Tree {
  readonly byId: ReadonlyMap<string, Page>
  readonly places: readonly Place[]
  readonly placeOf: ReadonlyMap<string, Place>
  /** Pages under a page, or at the top level for null, in order. */
  childrenOf(parentId: string | null): readonly Page[]
}

const none: readonly Page[] = []
const trees = new WeakMap<readonly Page[], { homeId: string; tree: Tree }>()

/** Siblings compare by their order key; equal keys (two windows at once) by age, then by id. */
export function compareSiblings(a: Page, b: Page): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1
  return a.seq - b.seq || (a.id < b.id ? -1 : 1)
}

/** The tree of a site; computed once for each list of pages. */
export function treeOf(site: Pick<Site, 'pages' | 'homeId'>): Tree {
  const known = trees.get(site.pages)
  if (known && known.homeId === site.homeId) return known.tree
  const byId = new Map<string, Page>()
  const children = new Map<string | null, Page[]>()
  for (const page of site.pages) {
    byId.set(page.id, page)
    const list = children.get(page.parentId)
    if (list) list.push(page)
    else children.set(page.parentId, [page])
  }
  const rank = (page: Page) => (page.id === site.homeId ? 0 : page.trial ? 2 : 1)
  for (const [parentId, list] of children)
    sortWhereNeeded(list, (a, b) => (parentId === null ? rank(a) - rank(b) : 0) || compareSiblings(a, b))

  const places: Place[] = []
  const placeOf = new Map<string, Place>()
  // A stack instead of recursion: a hostile plan may be thousands of levels deep.
  const stack: {
    list: readonly Page[]
    at: number
    depth: number
    prefix: string
    count: number
    trial: boolean
  }[] = [{ list: children.get(null) ?? none, at: 0, depth: 0, prefix: '', count: 0, trial: false }]
  while (stack.length > 0) {
    const level = stack[stack.length - 1]!
    const page = level.list[level.at++]
    if (!page) {
      stack.pop()
      continue
    }
    const trial = level.trial || page.trial
    const numbered = page.id !== site.homeId && !trial
    const number = numbered ? `${level.prefix}${++level.count}` : ''
    const place: Place = { page, depth: level.depth, number, trial }
    places.push(place)
    placeOf.set(page.id, place)
    const below = children.get(page.id)
    if (below)
      stack.push({
        list: below,
        at: 0,
        depth: level.depth + 1,
        prefix: number ? `${number}.` : '',
        count: 0,
        trial,
      })
  }
  const tree: Tree = { byId, places, placeOf, childrenOf: (parentId) => children.get(parentId) ?? none }
  trees.set(site.pages, { homeId: site.homeId, tree })
  return tree
}

/** Most lists are in order as they are stored, and need no copy of themselves to be sorted in. */
function sortWhereNeeded(list: Page[], compare: (a: Page, b: Page) => number): void {
  for (let at = 1; at < list.length; at++)
    if (compare(list[at - 1]!, list[at]!) > 0) return void list.sort(compare)
}

/** The pages above a page, the top level first; without the page itself. */
export function ancestorsOf(tree: Tree, page: Page): Page[] {
  const above: Page[] = []
  for (
    let at = page.parentId && tree.byId.get(page.parentId);
    at;
    at = at.parentId && tree.byId.get(at.parentId)
  )
    above.push(at)
  return above.reverse()
}

/** A page and all below it, in reading order. */
export function branchOf(tree: Tree, pageId: string): Page[] {
  const root = tree.byId.get(pageId)
  const branch = root ? [root] : []
  for (let at = 0; at < branch.length; at++) branch.push(...tree.childrenOf(branch[at]!.id))
  return branch
}

/** Pages that are part of the site: all but trial pages, in reading order. */
export function realPlaces(tree: Tree): Place[] {
  return tree.places.filter((place) => !place.trial)
}

/** The page after which another stands last under a page: no trial page, and none that is itself moved. */
export function lastUnder(tree: Tree, parentId: string | null, moved: readonly string[]): string | null {
  const below = tree.childrenOf(parentId)
  return below.findLast((page) => !page.trial && !moved.includes(page.id))?.id ?? null
}
