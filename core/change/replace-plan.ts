import { generateNKeysBetween } from 'fractional-indexing'
import { checkOwnName } from '#core/naming'
import { cleanLabel, compareSiblings, longestIncreasing, type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import type { Change, NewPage, PlanEdit, PlannedPage } from './change'
import { type Edited, elsewhere, gone, keptOnRelabel, labelRefusal, newPage, refuse } from './edited'

/** A whole plan as its author wants it: the home page and all that stands at the top level, with what is below. */
export interface WantedPlan {
  readonly home: Omit<PlannedPage, 'id' | 'children' | 'trial'>
  readonly top: readonly PlannedPage[]
}

type Field = PlanEdit['changed'][number]['field']

/**
 * A short mark of what a page holds: who removes a page has to have seen it as it is. 53 bits, against
 * chance and not against an attacker.
 */
function markOf(page: Page): string {
  const text = [page.label, page.title, page.description, page.ownName, page.content, page.parentId].join(
    '\n',
  )
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

  const note = (page: Page, field: Field, value: string | boolean | null | undefined) => {
    if (value !== undefined && value !== page[field])
      changed.push({ pageId: page.id, field, value, was: page[field] })
  }
  const compare = (page: Page, wanted: WantedPlan['home'] & { readonly trial: boolean }) => {
    note(page, 'label', wanted.label)
    note(page, 'trial', wanted.trial)
    note(page, 'inMenus', wanted.inMenus)
    for (const field of ['ownName', 'title', 'description'] as const)
      note(page, field, wanted.details?.[field])
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

/** Puts a plan in the place of the one its author saw, onto the site as it is now. */
export function replacePlan(site: Site, change: Extract<Change, { kind: 'replacePlan' }>): Edited {
  const tree = treeOf(site)
  const removed = new Set<string>()
  for (const { pageId, was } of change.removed) {
    const page = tree.byId.get(pageId)
    if (!page) continue
    if (pageId === site.homeId) return refuse('invalid', 'A site needs its home page.')
    if (markOf(page) !== was) return elsewhere(`“${page.label}”, which this plan leaves out,`, page.label)
    removed.add(pageId)
  }
  const next = new Map(site.pages.filter((page) => !removed.has(page.id)).map((page) => [page.id, page]))
  const refusal = changeFields(site, change, next)
  if (refusal) return refusal
  const placed = placePages(site, change, next)
  if ('refusal' in placed) return placed
  // What stood under a removed page and was not part of the plan goes to the nearest page that is left.
  for (const page of next.values()) {
    let parentId = page.parentId
    while (parentId !== null && !next.has(parentId)) parentId = tree.byId.get(parentId)?.parentId ?? null
    if (parentId === site.homeId) parentId = null
    if (parentId !== page.parentId) next.set(page.id, { ...page, parentId })
  }
  if (hasCircle(next, change.moved)) return refuse('invalid', 'A page cannot stand under itself.')
  return { site: { ...site, nextSeq: placed.nextSeq, pages: [...next.values()] } }
}

function changeFields(
  site: Site,
  change: Extract<Change, { kind: 'replacePlan' }>,
  next: Map<string, Page>,
): Edited | null {
  for (const { pageId, field, value, was } of change.changed) {
    const page = next.get(pageId)
    if (!page) return gone('A page that this plan changes')
    if (page[field] === value) continue
    if (page[field] !== was)
      return elsewhere(`What the plan says of “${page.label}” (${words[field]})`, String(page[field] ?? ''))
    switch (field) {
      case 'label': {
        const label = cleanLabel(String(value))
        const unusable = labelRefusal(label)
        if (unusable) return unusable
        next.set(pageId, { ...page, label, keptName: keptOnRelabel(site, page) })
        break
      }
      case 'ownName': {
        const unusable = value === null ? null : checkOwnName(String(value), site.scheme, site.language)
        if (unusable) return refuse('invalid', `The own name of “${page.label}”: ${unusable.reason}`)
        next.set(pageId, { ...page, ownName: value === null ? null : String(value), keptName: null })
        break
      }
      case 'trial':
        if (value === true && pageId === site.homeId)
          return refuse('invalid', 'The home page cannot be a trial page.')
        next.set(pageId, { ...page, trial: value === true, keptName: null })
        break
      case 'inMenus':
        next.set(pageId, { ...page, inMenus: value === true })
        break
      default:
        next.set(pageId, { ...page, [field]: value === '' ? null : value })
    }
  }
  return null
}

const words: Record<Field, string> = {
  label: 'its label',
  ownName: 'its own name',
  title: 'its title',
  description: 'its description',
  trial: 'trial page or not',
  inMenus: 'in menus or not',
}

/** Makes new pages and puts moved ones where the plan has them. Siblings that stay keep their keys. */
function placePages(
  site: Site,
  change: Extract<Change, { kind: 'replacePlan' }>,
  next: Map<string, Page>,
): { nextSeq: number } | Extract<Edited, { refusal: unknown }> {
  const known = new Set(site.pages.map((page) => page.id))
  let seq = site.nextSeq
  /** What is to stand after what, by parent: ids in the order they were named. */
  const placements = new Map<string | null, Map<string | null, string[]>>()
  const place = (parentId: string | null, after: string | null, id: string) => {
    const under = parentId === site.homeId ? null : parentId
    const anchor = after === site.homeId ? null : after
    const anchors = placements.get(under) ?? new Map<string | null, string[]>()
    placements.set(under, anchors)
    const list = anchors.get(anchor)
    if (list) list.push(id)
    else anchors.set(anchor, [id])
  }

  for (const { parentId, after, pages } of change.added) {
    let previous = after
    for (const one of pages) {
      place(parentId, previous, one.id)
      previous = one.id
    }
    const queue = pages.map((one) => ({ one, parentId, order: '' }))
    for (let at = 0; at < queue.length; at++) {
      const { one, parentId: under, order } = queue[at]!
      const label = cleanLabel(one.label)
      const unusable = labelRefusal(label)
      if (unusable) return unusable as Extract<Edited, { refusal: unknown }>
      if (known.has(one.id)) return refuse('invalid', `Two lines stand for the page “${label}”.`)
      known.add(one.id)
      const { details = {} } = one
      const name = details.ownName
      const bad = name === undefined ? null : checkOwnName(name, site.scheme, site.language)
      if (bad) return refuse('invalid', `The own name of “${label}”: ${bad.reason}`)
      next.set(one.id, {
        ...newPage(one.id, label, seq++, change.content),
        ...details,
        parentId: under,
        order,
        trial: one.trial ?? false,
        inMenus: one.inMenus ?? true,
      })
      const { children = [] } = one
      const keys = generateNKeysBetween(null, null, children.length)
      children.forEach((child, index) => queue.push({ one: child, parentId: one.id, order: keys[index]! }))
    }
  }
  for (const { pageId, parentId, after, was } of change.moved) {
    const page = next.get(pageId)
    if (!page) return gone('A page that this plan moves')
    if (pageId === site.homeId) return refuse('invalid', 'The home page stays at the top.')
    if (page.parentId !== was.parentId || page.order !== was.order)
      return elsewhere(`The place of “${page.label}”`, null)
    place(parentId, after, pageId)
    next.set(pageId, { ...page, order: '' })
  }

  const siblings = new Map<string | null, Page[]>()
  for (const page of next.values())
    if (page.order !== '' && page.id !== site.homeId && placements.has(page.parentId)) {
      const list = siblings.get(page.parentId)
      if (list) list.push(page)
      else siblings.set(page.parentId, [page])
    }
  for (const [parentId, anchors] of placements) {
    if (parentId !== null && !next.has(parentId)) return gone('A page that this plan puts others under')
    const fixed = (siblings.get(parentId) ?? []).sort(compareSiblings)
    const left = new Set([...anchors.values()].flat())
    /** All that is to follow an anchor, each followed by what is to follow it. */
    const following = (anchor: string | null): string[] => {
      const run: string[] = []
      const stack = [...(anchors.get(anchor) ?? [])].reverse()
      while (stack.length > 0) {
        const id = stack.pop()!
        if (!left.delete(id)) continue
        run.push(id)
        stack.push(...[...(anchors.get(id) ?? [])].reverse())
      }
      return run
    }
    const settle = (run: string[], low: string | null, high: string | null) =>
      generateNKeysBetween(low, high, run.length).forEach((order, index) => {
        const page = next.get(run[index]!)!
        const keptName = page.parentId === parentId ? page.keptName : null
        next.set(page.id, { ...page, parentId, order, keptName })
      })
    // Equal keys (two windows at once) leave no room between them, so the next larger one is taken.
    const above = (at: number, low: string | null) => {
      while (at < fixed.length && low !== null && fixed[at]!.order <= low) at++
      return fixed[at]?.order ?? null
    }
    settle(following(null), null, above(0, null))
    fixed.forEach(({ id, order }, index) => settle(following(id), order, above(index + 1, order)))
    // What was to follow a page that is gone, or has gone elsewhere, comes last.
    const rest = [...left].filter((id) => left.has(id))
    settle(rest, fixed[fixed.length - 1]?.order ?? null, null)
  }
  return { nextSeq: seq }
}

function hasCircle(pages: ReadonlyMap<string, Page>, moved: PlanEdit['moved']): boolean {
  const grounded = new Set<string>()
  for (const { pageId } of moved) {
    const way = new Set<string>()
    for (
      let at: string | null = pageId;
      at !== null && !grounded.has(at);
      at = pages.get(at)?.parentId ?? null
    ) {
      if (way.has(at)) return true
      way.add(at)
    }
    for (const id of way) grounded.add(id)
  }
  return false
}
