import { branchOf, treeOf } from '#core/plan'
import { count, pick } from '#core/site'
import { refuse } from '../../edited'
import { type ChangeKind, quoted, several } from '../../kind'

/** Removes pages with all below them. */
export interface RemovePages {
  readonly pageIds: readonly string[]
}

export const removePages: ChangeKind<RemovePages> = {
  title: ({ pageIds }, before) => `removing ${several(before, pageIds)}`,
  question({ pageIds }, before) {
    const tree = treeOf(before)
    const all = new Set(pageIds.flatMap((id) => branchOf(tree, id).map((page) => page.id))).size
    const below = pageIds.length === 1 && all > 1 ? ` and ${count(all - 1, 'page')} below it` : ''
    const which = pageIds.length > 1 ? count(all, 'page') : quoted(before, pageIds[0]!)
    return {
      name: 'Remove',
      what: `${which}${below} ${pick(all, 'leaves', 'leave')} the site and every menu`,
      go: all > 1 ? `Remove ${count(all, 'page')}` : 'Remove it',
      leave: `Keep ${pick(all, 'it', 'them')}`,
    }
  },
  apply(site, change) {
    const tree = treeOf(site)
    if (change.pageIds.includes(site.homeId)) return refuse('invalid', 'A site needs its home page.')
    const removed = new Set(change.pageIds.flatMap((id) => branchOf(tree, id).map((page) => page.id)))
    if (removed.size === 0) return { site }
    return { site: { ...site, pages: site.pages.filter((page) => !removed.has(page.id)) } }
  },
}
