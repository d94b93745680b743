import { generateNKeysBetween } from 'fractional-indexing'
import { checkDate, tagTyped } from '#core/language'
import { checkOwnName } from '#core/naming'
import { cleanLabel, compareSiblings, treeOf } from '#core/plan'
import { emptyHash, type Hash, type Page, type Site } from '#core/site'
import {
  type Edited,
  elsewhere,
  gone,
  keptOnRelabel,
  labelRefusal,
  newPage,
  type Refused,
  refuse,
} from '../../edited'
import type { ChangeKind } from '../../kind'
import { markOf, type PlanEdit, type PlanField } from './plan-edit'

/**
 * Puts a whole plan in the place of the one its author saw (`planEdit`). What others did meanwhile to
 * other pages or other fields stays; where both did something to the same, it is refused.
 */
export interface ReplacePlan extends PlanEdit {
  /** What a new page's content slot holds. */
  readonly content: Hash
}

export const replacePlan: ChangeKind<ReplacePlan, PlanEdit> = {
  deepens: true,
  inMenus: true,
  shown: (request) => ({ ...request, content: emptyHash }),
  title: () => 'a new plan',
  question: () => ({
    name: 'Plan',
    what: 'This plan takes the place of the one before',
    go: 'Use this plan',
    leave: 'Keep the plan as it is',
  }),
  apply,
}

/** Puts a plan in the place of the one its author saw, onto the site as it is now. */
function apply(site: Site, change: ReplacePlan): Edited {
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

function changeFields(site: Site, change: ReplacePlan, next: Map<string, Page>): Edited | null {
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
      case 'dated':
        next.set(pageId, { ...page, [field]: value === true })
        break
      case 'date':
        if (value !== null && checkDate(String(value)) === null)
          return refuse('invalid', `“${String(value)}” is no date.`)
        next.set(pageId, { ...page, date: value === null ? null : String(value), keptName: null })
        break
      case 'language':
        if (value !== null && tagTyped(String(value)) === null)
          return refuse('invalid', `“${String(value)}” is no language.`)
        next.set(pageId, { ...page, language: value === null ? null : tagTyped(String(value)) })
        break
      default:
        next.set(pageId, { ...page, [field]: value === '' ? null : value })
    }
  }
  return null
}

const words: Record<PlanField, string> = {
  label: 'its label',
  ownName: 'its own name',
  title: 'its title',
  description: 'its description',
  language: 'its language',
  dated: 'dated or not',
  date: 'its date',
  trial: 'trial page or not',
  inMenus: 'in menus or not',
}

/** Makes new pages and puts moved ones where the plan has them. Siblings that stay keep their keys. */
function placePages(site: Site, change: ReplacePlan, next: Map<string, Page>): { nextSeq: number } | Refused {
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
      if (unusable) return unusable
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
