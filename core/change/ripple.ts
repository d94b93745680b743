import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Site } from '#core/site'
import { findMoved, type Moved, type Rewrite } from './rewrites'

/** All that a change touches, for showing before it is made. */
export interface Ripple {
  readonly moved: readonly Moved[]
  readonly rewrites: readonly Rewrite[]
  readonly linkCount: number
  /** References in remaining texts whose target leaves the site. */
  readonly brokenCount: number
  /** Pages that leave the site or join it. */
  readonly removed: readonly string[]
  readonly added: readonly string[]
}

/** Puts together what changes between two states of a site. */
export function rippleOf(
  before: Site,
  after: Site,
  rewrites: readonly Rewrite[],
  brokenCount: number,
): Ripple {
  const was = new Map(realPlaces(treeOf(before)).map(({ page }) => [page.id, page]))
  const is = new Map(realPlaces(treeOf(after)).map(({ page }) => [page.id, page]))
  const pathIn = (site: Site, id: string) => namesOf(site).pages.get(id)?.path ?? ''
  return {
    moved: findMoved(before, after).filter(({ kind, id }) => kind === 'file' || (was.has(id) && is.has(id))),
    rewrites,
    brokenCount,
    linkCount: rewrites.reduce((count, { edits }) => count + edits.length, 0),
    removed: [...was.keys()].filter((id) => !is.has(id)).map((id) => pathIn(before, id)),
    added: [...is.keys()].filter((id) => !was.has(id)).map((id) => pathIn(after, id)),
  }
}
