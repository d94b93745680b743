import { treeOf } from '#core/plan'
import { elsewhere, gone, refuse } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'
import { orderKeys } from '../../places'

/** Makes another page the home page; the one before takes its place in the plan. */
export interface SetHome {
  readonly pageId: string
  readonly was: string
}

export const setHome: ChangeKind<SetHome> = {
  manages: true,
  inMenus: true,
  title: ({ pageId }, before) => `${quoted(before, pageId)} as the home page`,
  question: ({ pageId }, before) => ({
    name: 'Home page',
    what: `${quoted(before, pageId)} becomes the home page`,
    go: 'Make it the home page',
    leave: 'Keep the old one',
  }),
  /** The new home page goes to the top; what stood under it moves up to where it stood. */
  apply(site, change) {
    const tree = treeOf(site)
    const page = tree.byId.get(change.pageId)
    if (!page) return gone('The page')
    if (site.homeId !== change.was && site.homeId !== page.id) return elsewhere('The home page', site.homeId)
    if (page.id === site.homeId) return { site }
    if (tree.placeOf.get(page.id)?.trial) return refuse('invalid', 'A trial page cannot be the home page.')
    const below = tree.childrenOf(page.id)
    const lifted = new Map(
      orderKeys(site, page.parentId, page.id, below.length).map((order, index) => [below[index]!.id, order]),
    )
    const [first, second] = orderKeys(site, null, null, 2)
    const pages = site.pages.map((one) => {
      if (one.id === page.id) return { ...one, parentId: null, order: first!, keptName: null }
      if (one.id === site.homeId) return { ...one, order: second! }
      const order = lifted.get(one.id)
      return order === undefined ? one : { ...one, parentId: page.parentId, order, keptName: null }
    })
    return { site: { ...site, homeId: page.id, pages } }
  },
}
