import { branchOf, treeOf } from '#core/plan'
import type { Site } from '#core/site'

/** A hint about the plan that its author may take or leave. */
export interface Advice {
  /** Stays the same while the matter does, so that it can be dismissed. */
  readonly key: string
  readonly pageId: string
  readonly text: string
}

const manyPages = 12
const deepest = 3

/** What a practised author would remark on in a plan. */
export function adviseOnPlan(site: Pick<Site, 'pages' | 'homeId'>): Advice[] {
  const tree = treeOf(site)
  const advice: Advice[] = []
  const labels = new Map<string, string>()
  for (const { page, depth, trial } of tree.places) {
    if (trial) continue
    const below = tree.childrenOf(page.id).filter((one) => !one.trial)
    const say = (rule: string, text: string) =>
      advice.push({ key: `${rule} ${page.id}`, pageId: page.id, text })
    if (below.length > manyPages)
      say(
        'many',
        `“${page.label}” has ${below.length} pages directly under it; its menu is long to read. Sections would help.`,
      )
    if (below.length === 1 && branchOf(tree, page.id).length === 2)
      say(
        'single',
        `“${page.label}” is a section of one page, “${below[0]!.label}”; the two might be one page.`,
      )
    if (depth === deepest)
      say(
        'deep',
        `“${page.label}” stands on level ${depth + 1}; pages deeper than ${deepest} levels are seldom found.`,
      )
    const key = page.label.toLowerCase()
    const other = labels.get(key)
    if (other === undefined) labels.set(key, page.id)
    else
      say('same', `There is another page called “${page.label}”; in menus and lists the two look the same.`)
  }
  const top = tree.childrenOf(null).filter((page) => page.id !== site.homeId && !page.trial && page.inMenus)
  if (top.length > manyPages)
    advice.unshift({
      key: `many ${site.homeId}`,
      pageId: site.homeId,
      text: `The top level has ${top.length} pages, and so has every menu. Sections would help.`,
    })
  return advice
}
