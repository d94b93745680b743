import { ancestorsOf } from '#core/plan'
import { flat, type GeneratedPart, ownAttribute } from './part'

/** The way from the home page to the page; with `own="omit"` without the page itself. */
export const siteTrail: GeneratedPart = {
  name: 'site-trail',
  attributes: [ownAttribute],
  list: 'ol',
  isSharedBySiblings: true,
  entries({ tree, site }, { own }, page) {
    if (page.id === site.homeId) return []
    const home = tree.byId.get(site.homeId)
    const above = ancestorsOf(tree, page).filter((one) => one.id !== site.homeId)
    return flat([...(home ? [home] : []), ...above, ...(own === 'omit' ? [] : [page])])
  },
}
