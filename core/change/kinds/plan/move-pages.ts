import { treeOf } from '#core/plan'
import { pick } from '#core/site'
import { gone, refuse } from '../../edited'
import { type ChangeKind, quoted, several } from '../../kind'
import { orderKeys, settlePlace } from '../../places'

/** Moves pages, in the order given, to follow a sibling (null: to be the first). */
export interface MovePages {
  readonly pageIds: readonly string[]
  readonly parentId: string | null
  readonly after: string | null
}

export const movePages: ChangeKind<MovePages> = {
  deepens: true,
  inMenus: true,
  title: ({ pageIds }, before) => `moving ${several(before, pageIds)}`,
  question({ pageIds, parentId }, before) {
    const where = parentId === null ? 'to the top level' : `under ${quoted(before, parentId)}`
    const them = pick(pageIds.length, 'it', 'them')
    return {
      name: 'Move',
      what: `${several(before, pageIds)} ${pick(pageIds.length, 'goes', 'go')} ${where}`,
      go: `Move ${them}`,
      leave: `Leave ${them}`,
    }
  },
  apply(site, change) {
    const tree = treeOf(site)
    const moving = new Set(change.pageIds)
    if (change.pageIds.some((id) => !tree.byId.has(id))) return gone('A page to move')
    if (moving.has(site.homeId)) return refuse('invalid', 'The home page stays at the top.')
    if (change.parentId !== null && !tree.byId.has(change.parentId)) return gone('The page to move under')
    for (let at = change.parentId; at !== null; at = tree.byId.get(at)?.parentId ?? null)
      if (moving.has(at)) return refuse('invalid', 'A page cannot stand under itself.')
    const { parentId, after } = settlePlace(site, change.parentId, change.after)
    const keys = orderKeys(site, parentId, after, moving.size, moving)
    const orders = new Map([...moving].map((id, index) => [id, keys[index]!]))
    const pages = site.pages.map((page) => {
      const order = orders.get(page.id)
      if (order === undefined) return page
      return { ...page, parentId, order, keptName: page.parentId === parentId ? page.keptName : null }
    })
    return { site: { ...site, pages } }
  },
}
