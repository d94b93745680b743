import type { Page, Site } from '#core/site'
import { type OutlineNode, pageDetails, type PageDetails } from './outline'
import { treeOf } from './tree'

/** A site's plan as outline lines: the home page on top with the top level under it. */
export function outlineOfSite(site: Pick<Site, 'pages' | 'homeId'>): OutlineNode[] {
  const tree = treeOf(site)
  // Built from the last page to the first, so that a page's children are ready before it.
  const nodes = new Map<string, OutlineNode>()
  const childNodes = (parentId: string | null) =>
    tree.childrenOf(parentId).flatMap((child: Page) => nodes.get(child.id) ?? [])
  for (const { page } of [...tree.places].reverse())
    if (page.id !== site.homeId) nodes.set(page.id, lineOf(page, childNodes(page.id)))
  const home = tree.byId.get(site.homeId)
  const top = childNodes(null)
  return home ? [lineOf(home, top)] : top
}

function lineOf(page: Page, children: OutlineNode[]): OutlineNode {
  // What is not said of a page is null, and of most no dates are said.
  const said = pageDetails.filter((name) => page[name] !== null && page[name] !== false)
  const details = Object.fromEntries(said.map((name) => [name, page[name]])) as PageDetails
  const { label, trial, inMenus } = page
  return { label, trial, inMenus, children, ...(said.length > 0 && { details }) }
}
