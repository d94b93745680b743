import { branchOf, treeOf } from '#core/plan'
import type { Page } from '#core/site'
import { gone, longestLabel, refuse } from '../../edited'
import { type ChangeKind, several } from '../../kind'
import { orderKeys } from '../../places'

/** Makes copies of pages with all below them, each after its original, with the ids given. */
export interface DuplicatePages {
  readonly pageIds: readonly string[]
  /** New ids by the ids of the originals, for every page of the branches. */
  readonly newIds: Readonly<Record<string, string>>
}

export const duplicatePages: ChangeKind<DuplicatePages> = {
  inMenus: true,
  copies: ({ newIds }) => newIds,
  title: ({ pageIds }, before) => `copying ${several(before, pageIds)}`,
  question: ({ pageIds }, before) => ({
    name: 'Copy',
    what: `${several(before, pageIds)} ${pageIds.length === 1 ? 'gets a copy' : 'get copies'}, with all below`,
    go: 'Make the copies',
    leave: 'Make none',
  }),
  apply(site, change) {
    const tree = treeOf(site)
    if (change.pageIds.includes(site.homeId)) return refuse('invalid', 'A site has one home page.')
    if (change.pageIds.some((id) => !tree.byId.has(id))) return gone('A page to copy')
    const chosen = new Set(change.pageIds)
    // One that stands below another chosen one is copied with it, and not a second time.
    const roots = [...chosen].filter((id) => {
      for (let at = tree.byId.get(id)!.parentId; at !== null; at = tree.byId.get(at)?.parentId ?? null)
        if (chosen.has(at)) return false
      return true
    })
    const originals = roots.flatMap((id) => branchOf(tree, id))
    const newIds = originals.map((page) => change.newIds[page.id] ?? '')
    // Asked for again because the answer was lost on the way: it is done.
    if (newIds.every((id) => tree.byId.has(id))) return { site }
    if (new Set(newIds).size < newIds.length || newIds.some((id) => id === '' || tree.byId.has(id)))
      return refuse('invalid', 'The copies have no ids of their own.')
    let seq = site.nextSeq
    let after = site
    for (const id of roots) {
      const original = tree.byId.get(id)!
      const [order] = orderKeys(after, original.parentId, id, 1)
      const copies = branchOf(tree, id).map((page): Page => {
        const root = page.id === id
        const label = root ? `${page.label} (copy)` : page.label
        return {
          ...page,
          id: change.newIds[page.id]!,
          parentId: root ? page.parentId : change.newIds[page.parentId!]!,
          order: root ? order! : page.order,
          seq: seq++,
          label: label.length > longestLabel ? page.label : label,
          // A name of its own belongs to one page.
          ownName: null,
          keptName: null,
          addresses: [],
          // Two pages in one language are not one.
          translationSet: null,
          translatedFrom: null,
        }
      })
      after = { ...after, nextSeq: seq, pages: [...after.pages, ...copies] }
    }
    return { site: after }
  },
}
