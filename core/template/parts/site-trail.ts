import { belowHome, flat, type GeneratedPart, homeFor, ownAttribute } from './part'

/** The way from the home page to the page; with `own="omit"` without the page itself. */
export const siteTrail: GeneratedPart = {
  name: 'site-trail',
  attributes: [ownAttribute],
  list: 'ol',
  isSharedBySiblings: true,
  entries(context, { own }, page, keeps) {
    const home = homeFor(context, page, keeps)
    if (page.id === home.id) return []
    return flat([home, ...belowHome(context, page, keeps), ...(own === 'omit' ? [] : [page])])
  },
}
