import type { SiteContext } from '../context'
import { flat, type GeneratedPart, listedUnder } from './part'

/** The pages before and after the page among its siblings. */
export const pageNeighbours: GeneratedPart = {
  name: 'page-neighbours',
  attributes: [],
  list: 'ul',
  entries(context, _, page, keeps) {
    const { list, at } = siblingsOf(context, page.parentId, keeps)
    const place = at.get(page.id)
    if (place === undefined) return []
    return flat([list[place - 1], list[place + 1]].filter((one) => one !== undefined))
  },
  rel(context, from, to, keeps) {
    const { at } = siblingsOf(context, from.parentId, keeps)
    return at.get(to.id)! < at.get(from.id)! ? 'prev' : 'next'
  },
}

/** The pages of one parent that neighbours are found among, and where each stands. */
function siblingsOf(context: SiteContext, parentId: string | null, keeps: boolean) {
  const key = `${keeps} ${parentId}`
  let known = context.siblings.get(key)
  if (!known) {
    const list = listedUnder(context, parentId, keeps)
    known = { list, at: new Map(list.map((page, index) => [page.id, index])) }
    context.siblings.set(key, known)
  }
  return known
}
