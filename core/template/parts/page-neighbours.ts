import type { SiteContext } from '../context'
import { type Attributes, flat, type GeneratedPart, listedUnder, newestFirst } from './part'

/** The pages before and after the page among its siblings: in the plan, or with `order="date"` by their dates, the oldest first. */
export const pageNeighbours: GeneratedPart = {
  name: 'page-neighbours',
  attributes: [{ name: 'order', values: ['plan', 'date'] }],
  list: 'ul',
  entries(context, attributes, page, keeps) {
    const { list, at } = siblingsOf(context, attributes, page.parentId, keeps)
    const place = at.get(page.id)
    if (place === undefined) return []
    return flat([list[place - 1], list[place + 1]].filter((one) => one !== undefined))
  },
  rel(context, attributes, from, to, keeps) {
    const { at } = siblingsOf(context, attributes, from.parentId, keeps)
    return at.get(to.id)! < at.get(from.id)! ? 'prev' : 'next'
  },
}

/** The pages of one parent that neighbours are found among, and where each stands. */
function siblingsOf(context: SiteContext, { order }: Attributes, parentId: string | null, keeps: boolean) {
  const key = `${order === 'date'} ${keeps} ${parentId}`
  let known = context.siblings.get(key)
  if (!known) {
    const planned = listedUnder(context, parentId, keeps)
    // Those that carry no date were there before all that do.
    const list = order === 'date' ? newestFirst(context, planned.toReversed()).reverse() : planned
    known = { list, at: new Map(list.map((page, index) => [page.id, index])) }
    context.siblings.set(key, known)
  }
  return known
}
