import type { SiteContext } from '../context'
import { flat, type GeneratedPart, isSomeHome, listed } from './part'

/** The pages before and after the page among its siblings. */
export const pageNeighbours: GeneratedPart = {
  name: 'page-neighbours',
  attributes: [],
  list: 'ul',
  entries(context, _, page) {
    const { list, at } = siblingsOf(context, page.parentId)
    const place = at.get(page.id)
    if (place === undefined) return []
    return flat([list[place - 1], list[place + 1]].filter((one) => one !== undefined))
  },
  rel(context, from, to) {
    const { at } = siblingsOf(context, from.parentId)
    return at.get(to.id)! < at.get(from.id)! ? 'prev' : 'next'
  },
}

/** The pages of one parent that neighbours are found among, and where each stands. */
function siblingsOf(context: SiteContext, parentId: string | null) {
  let known = context.siblings.get(parentId)
  if (!known) {
    const list = context.tree
      .childrenOf(parentId)
      .filter((one) => listed(one) && !(parentId === null && isSomeHome(context, one)))
    known = { list, at: new Map(list.map((page, index) => [page.id, index])) }
    context.siblings.set(parentId, known)
  }
  return known
}
