import { type Found, inPage, type Rule } from '../../rule'

const most = 12

/** A page with more directly under it than a menu can be read with. */
export const manyPages: Rule = {
  id: 'many',
  grade: 'detail',
  title: 'Long menus',
  why: 'A menu is read from end to end by whoever looks for something.',
  reads: 'site',
  find({ site, pages, tree }) {
    const found: Found[] = []
    const top = tree.childrenOf(null).filter((page) => page.id !== site.homeId && !page.trial && page.inMenus)
    if (top.length > most)
      found.push({
        place: inPage(tree.byId.get(site.homeId)!),
        what: `The top level has ${top.length} pages, and so has every menu. Sections would help.`,
      })
    for (const page of pages) {
      const below = tree.childrenOf(page.id).filter((one) => !one.trial)
      if (below.length > most)
        found.push({
          place: inPage(page),
          what: `“${page.label}” has ${below.length} pages directly under it; its menu is long to read. Sections would help.`,
        })
    }
    return found
  },
}
