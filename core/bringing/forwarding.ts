import { clashKey } from '#core/naming'
import { homeNameOf } from '#core/site'
import type { ReadPage } from './reading/read-page'

/** Pages that send on to one another, one after the other, at most. */
const longestChain = 8

/**
 * Pages without those that do nothing but send visitors on from an old address, and the addresses of the pages they send
 * them to. One that another page leads to is a page: its author counts on it.
 */
export function withoutForwarders(all: readonly ReadPage[]): {
  readonly pages: ReadPage[]
  readonly addressesOf: ReadonlyMap<string, readonly string[]>
} {
  const byId = new Map(all.map((page) => [page.id, page]))
  const alike = new Map<string, number>()
  for (const { path } of all) alike.set(clashKey(path), (alike.get(clashKey(path)) ?? 0) + 1)
  /** A host that tells capitals apart has both, and no forwarder could stand beside its page. */
  const isClash = ({ path }: ReadPage) => alike.get(clashKey(path))! > 1
  const isHome = ({ path }: ReadPage) => !path.includes('/') && homeNameOf(path) !== null
  const sending = new Map(
    all.flatMap((page) =>
      page.forwardsTo === null || isHome(page) || isClash(page) ? [] : [[page.id, page.forwardsTo]],
    ),
  )
  for (const { id, links } of all) if (!sending.has(id)) for (const link of links) sending.delete(link.id)
  const addressesOf = new Map<string, string[]>()
  const gone = new Set<string>()
  for (const [id, first] of sending) {
    let to = first
    for (let step = 0; sending.has(to) && step < longestChain; step++) to = sending.get(to)!
    if (sending.has(to) || !byId.has(to)) continue
    gone.add(id)
    const known = addressesOf.get(to)
    const { path } = byId.get(id)!
    if (known) known.push(path)
    else addressesOf.set(to, [path])
  }
  return { pages: all.filter(({ id }) => !gone.has(id)), addressesOf }
}
