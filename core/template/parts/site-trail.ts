import { belowHome, flat, type GeneratedPart, homeFor, ownAttribute } from './part'

/** The way from the home page, or that in the page's language, to the page; with `own="omit"` without the page itself. */
export const siteTrail: GeneratedPart = {
  name: 'site-trail',
  attributes: [ownAttribute],
  list: 'ol',
  isSharedBySiblings: true,
  entries(context, { own }, page) {
    const home = homeFor(context, page)
    if (page.id === home.id) return []
    return flat([home, ...belowHome(context, page), ...(own === 'omit' ? [] : [page])])
  },
}
