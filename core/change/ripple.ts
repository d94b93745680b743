import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Site } from '#core/site'
import { type HiddenSlot, newlyHidden } from './hidden-slots'
import type { MovedPlaces } from './moved-places'
import { countBroken, findMoved, type Moved, type Rewrite, type RewriteSources } from './rewrites'

/** All that a change touches, for showing before it is made. */
export interface Ripple {
  readonly moved: readonly Moved[]
  readonly rewrites: readonly Rewrite[]
  readonly linkCount: number
  /** References in remaining texts whose target leaves the site, or becomes a trial page. */
  readonly brokenCount: number
  /** Pages that leave the site or join it. */
  readonly removed: readonly string[]
  readonly added: readonly string[]
  /** Texts that their pages' templates show before it and not after: kept, and out of sight. */
  readonly hidden: readonly HiddenSlot[]
  /** Addresses in the world that would change, and so need a forwarder. */
  readonly addresses: readonly string[]
  /** Whether it touches what is written or out in the world, and not only files that the register shows anyway. */
  readonly reachesFurther: boolean
}

/** Puts together what a change makes of a site, once the references it makes wrong are found. */
export function rippleOf(
  before: Site,
  after: Site,
  allRewrites: readonly Rewrite[],
  { factsOf, textOf }: Pick<RewriteSources, 'factsOf' | 'textOf'>,
  places: readonly MovedPlaces[] = [],
): Ripple {
  const was = new Map(realPlaces(treeOf(before)).map(({ page }) => [page.id, page]))
  const is = new Map(realPlaces(treeOf(after)).map(({ page }) => [page.id, page]))
  const pathIn = (site: Site, id: string) => namesOf(site).pages.get(id)?.path ?? ''
  const moved = findMoved(before, after).filter(
    ({ kind, id }) => kind === 'file' || (was.has(id) && is.has(id)),
  )
  // What is rewritten in a copy, or in a page that was not there before, is part of its making.
  const known = treeOf(before).byId
  const rewrites = allRewrites.filter(
    ({ owner, isOfCopy }) => !isOfCopy && (owner.kind !== 'page' || known.has(owner.id)),
  )
  const published = new Set(before.pages.flatMap((page) => page.addresses))
  const addresses = moved
    .filter((one) => one.kind === 'page' && published.has(one.from))
    .map(({ from }) => from)
  const removed = [...was.keys()].filter((id) => !is.has(id))
  // Nothing breaks where nothing leaves; every reference is looked at only then.
  const leaves = removed.length > 0 || after.files.length < before.files.length
  const brokenCount = leaves ? countBroken(before, after, factsOf, places) : 0
  const hidden = newlyHidden(before, after, textOf)
  return {
    moved,
    rewrites,
    brokenCount,
    hidden,
    linkCount: rewrites.reduce((count, { edits }) => count + edits.length, 0),
    removed: removed.map((id) => pathIn(before, id)),
    added: [...is.keys()].filter((id) => !was.has(id)).map((id) => pathIn(after, id)),
    addresses,
    reachesFurther: rewrites.length > 0 || brokenCount > 0 || addresses.length > 0 || hidden.length > 0,
  }
}
