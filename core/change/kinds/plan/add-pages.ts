import { generateNKeysBetween } from 'fractional-indexing'
import { cleanLabel, treeOf } from '#core/plan'
import { count, emptyHash, type Hash, type Page } from '#core/site'
import type { NewPage } from '../../new-page'
import { gone, labelRefusal, newPage, refuse } from '../../edited'
import type { ChangeKind } from '../../kind'
import { orderKeys, settlePlace } from '../../places'

/** Adds pages with all below them, after a sibling (null: as the first). */
export interface AddPages {
  readonly parentId: string | null
  readonly after: string | null
  readonly pages: readonly NewPage[]
  /** What a new page's content slot holds. */
  readonly content: Hash
}

export const addPages: ChangeKind<AddPages, Omit<AddPages, 'content'>> = {
  deepens: true,
  inMenus: true,
  shown: (request) => ({ ...request, content: emptyHash }),
  title: ({ pages }) =>
    pages.length === 1 ? `adding “${pages[0]!.label}”` : `adding ${count(pages.length, 'page')}`,
  question: () => ({
    name: 'Add',
    what: 'More pages join the plan',
    go: 'Add them',
    leave: 'Leave them out',
  }),
  apply(site, change) {
    const tree = treeOf(site)
    if (change.parentId !== null && !tree.byId.has(change.parentId)) return gone('The page to add under')
    // Asked for again because the answer was lost on the way: it is done.
    if (change.pages.length > 0 && change.pages.every((page) => tree.byId.has(page.id))) return { site }
    const { parentId, after } = settlePlace(site, change.parentId, change.after)
    const added: Page[] = []
    const ids = new Set(tree.byId.keys())
    let seq = site.nextSeq
    const queue: { pages: readonly NewPage[]; parentId: string | null; keys: string[] }[] = [
      { pages: change.pages, parentId, keys: orderKeys(site, parentId, after, change.pages.length) },
    ]
    for (let at = 0; at < queue.length; at++) {
      const { pages, parentId: under, keys } = queue[at]!
      for (const [index, one] of pages.entries()) {
        const label = cleanLabel(one.label)
        const unusable = labelRefusal(label)
        if (unusable) return unusable
        if (ids.has(one.id))
          return refuse('invalid', 'Two pages cannot have one id; this one is part of the site.')
        ids.add(one.id)
        added.push({
          ...newPage(one.id, label, seq++, change.content),
          parentId: under,
          order: keys[index]!,
          trial: one.trial ?? false,
          inMenus: one.inMenus ?? true,
          language: one.language ?? null,
        })
        if (one.children?.length)
          queue.push({
            pages: one.children,
            parentId: one.id,
            keys: generateNKeysBetween(null, null, one.children.length),
          })
      }
    }
    return { site: { ...site, nextSeq: seq, pages: [...site.pages, ...added] } }
  },
}
