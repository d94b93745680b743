import {
  cleanLabel,
  compareSiblings,
  longestIncreasing,
  type PageDetails,
  pageDetails,
  type Tree,
  treeOf,
} from '#core/plan'
import type { Page, Site } from '#core/site'
import type { NewPage, PlannedPage } from '../../new-page'

/** What puts one plan in the place of another: only what differs from the plan its author saw. */
export interface PlanEdit {
  /** New pages with all that is new below them, each run after a sibling (null: first). */
  readonly added: readonly {
    readonly parentId: string | null
    readonly after: string | null
    readonly pages: readonly NewPage[]
  }[]
  /** Pages that go to another place, after a sibling that may itself be new or moved; `was` is where the author saw them. */
  readonly moved: readonly {
    readonly pageId: string
    readonly parentId: string | null
    readonly after: string | null
    readonly was: Pick<Page, 'parentId' | 'order'>
  }[]
  readonly changed: readonly {
    readonly pageId: string
    readonly field: 'label' | 'trial' | 'inMenus' | keyof PageDetails
    readonly value: string | boolean | null
    readonly was: string | boolean | null
  }[]
  /** Pages the plan leaves out, with a mark of what the author saw of them. */
  readonly removed: readonly { readonly pageId: string; readonly was: string }[]
}

/** A whole plan as its author wants it: the home page and all that stands at the top level, with what is below. */
export interface WantedPlan {
  readonly home: Omit<PlannedPage, 'id' | 'children' | 'trial'>
  readonly top: readonly PlannedPage[]
}

export type PlanField = PlanEdit['changed'][number]['field']

/**
 * A short mark of what a page holds: who removes a page has to have seen it as it is. 53 bits, against
 * chance and not against an attacker.
 */
export function markOf(page: Page): string {
  const { label, title, description, ownName, content, parentId } = page
  const slots = Object.entries(page.slots).map((slot) => slot.join(' ')).sort() // prettier-ignore
  const text = [label, title, description, ownName, content, parentId, ...slots].join('\n')
  let [one, two] = [0xdeadbeef, 0x41c6ce57]
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at)
    one = Math.imul(one ^ code, 2654435761)
    two = Math.imul(two ^ code, 1597334677)
  }
  one = Math.imul(one ^ (one >>> 16), 2246822507) ^ Math.imul(two ^ (two >>> 13), 3266489909)
  two = Math.imul(two ^ (two >>> 16), 2246822507) ^ Math.imul(one ^ (one >>> 13), 3266489909)
  return (4294967296 * (2097151 & two) + (one >>> 0)).toString(36)
}

/**
 * What has to be done to the site that the author saw for it to have the plan they want, and nothing
 * else: what somebody else does meanwhile to other pages, or to other things of the same pages, is left.
 */
export function planEdit(seen: Pick<Site, 'pages' | 'homeId'>, { home, top }: WantedPlan): PlanEdit {
  const tree = treeOf(seen)
  const added: { parentId: string | null; after: string | null; pages: NewPage[] }[] = []
  const moved: PlanEdit['moved'][number][] = []
  const changed: PlanEdit['changed'][number][] = []
  const kept = new Set([seen.homeId])

  const note = (page: Page, field: PlanField, value: string | boolean | null | undefined) => {
    if (value !== undefined && value !== page[field])
      changed.push({ pageId: page.id, field, value, was: page[field] })
  }
  const compare = (page: Page, wanted: WantedPlan['home'] & { readonly trial: boolean }) => {
    note(page, 'label', wanted.label)
    note(page, 'trial', wanted.trial)
    note(page, 'inMenus', wanted.inMenus)
    for (const field of pageDetails) note(page, field, wanted.details?.[field])
  }
  const homePage = tree.byId.get(seen.homeId)!
  compare(homePage, { ...home, trial: false, label: cleanLabel(home.label) || homePage.label })

  // New pages hold their new children, so lists are taken level by level with where theirs go.
  const queue: { list: readonly PlannedPage[]; parentId: string | null; into: NewPage[] | null }[] = [
    { list: top, parentId: null, into: null },
  ]
  for (let at = 0; at < queue.length; at++) {
    const { list, parentId, into } = queue[at]!
    const staying = stayingOf(tree, list, parentId)
    let run: NewPage[] | null = null
    // Each row of siblings by itself: at the top level trial pages stand in one of their own, shown last.
    const last = new Map<string, string>()
    let runRow = ''
    for (const wanted of list) {
      const row = rowOf(parentId, wanted.trial)
      const after = last.get(row) ?? null
      if (row !== runRow) run = null
      runRow = row
      const page = tree.byId.get(wanted.id)
      if (page && page.id !== seen.homeId) {
        kept.add(page.id)
        compare(page, wanted)
        if (!staying.has(page.id))
          moved.push({
            pageId: page.id,
            parentId,
            after,
            was: { parentId: page.parentId, order: page.order },
          })
        run = null
        queue.push({ list: wanted.children, parentId: page.id, into: null })
      } else {
        const { id, label, trial, inMenus, details } = wanted
        const children: NewPage[] = []
        const one: NewPage = {
          id,
          label,
          ...(trial && { trial }),
          ...(!inMenus && { inMenus }),
          ...(details && { details }),
          ...(wanted.children.length > 0 && { children }),
        }
        if (into) into.push(one)
        else if (run) run.push(one)
        else added.push({ parentId, after, pages: (run = [one]) })
        queue.push({ list: wanted.children, parentId: id, into: children })
      }
      last.set(row, wanted.id)
    }
  }
  const removed = seen.pages
    .filter((page) => !kept.has(page.id))
    .map((page) => ({ pageId: page.id, was: markOf(page) }))
  return { added, moved, changed, removed }
}

/** Which row of siblings a page stands in: trial pages of the top level have one of their own. */
const rowOf = (parentId: string | null, trial: boolean) =>
  parentId === null && trial ? 'trial pages' : 'pages'

/** Which pages of a list stay as they stand: the most that are in order already. Trial pages apart, shown last. */
function stayingOf(tree: Tree, list: readonly PlannedPage[], parentId: string | null): Set<string> {
  const known = list.filter(({ id }) => tree.byId.get(id)?.parentId === parentId)
  if (known.length === 0) return new Set()
  const ranks = new Map(
    [...tree.childrenOf(parentId)].sort(compareSiblings).map((page, index) => [page.id, index]),
  )
  const staying = new Set<string>()
  for (const row of ['pages', 'trial pages']) {
    const group = known.filter((one) => rowOf(parentId, one.trial) === row)
    for (const index of longestIncreasing(group.map(({ id }) => ranks.get(id)!)))
      staying.add(group[index]!.id)
  }
  return staying
}
