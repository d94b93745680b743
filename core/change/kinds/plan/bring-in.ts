import { heldAgainstOriginals, treeOf } from '#core/plan'
import { count, type Page, type SiteFile, type Template } from '#core/site'
import { gone, labelRefusal, refuse } from '../../edited'
import type { ChangeKind } from '../../kind'
import { orderKeys } from '../../places'
import { mostTemplates } from '../templates/add-template'

/** What is in a page that takes the place of what it held. */
export type BroughtAnew = Pick<
  Page,
  'id' | 'title' | 'titleAlone' | 'description' | 'content' | 'slots' | 'templateId'
>

/** Brings pages, files and templates of another site in. Made by the server, which has read them. */
export interface BringIn {
  /** New pages in the order of their plan; where they stand among others follows from it. */
  readonly pages: readonly Omit<Page, 'order' | 'seq'>[]
  readonly files: readonly Omit<SiteFile, 'seq'>[]
  readonly templates: readonly Template[]
  readonly anew: readonly BroughtAnew[]
  readonly filesAnew: readonly Pick<SiteFile, 'id' | 'hash' | 'sizeBytes'>[]
}

export const bringIn: ChangeKind<BringIn> = {
  manages: true,
  deepens: true,
  inMenus: true,
  written: ({ pages, files, templates, anew, filesAnew }) =>
    [...pages, ...files, ...templates, ...anew, ...filesAnew].map(({ id }) => id),
  title: ({ pages, anew }) => `bringing in ${count(pages.length + anew.length, 'page')}`,
  question: ({ pages, anew }) => ({
    name: 'Bring in',
    what: `${count(pages.length + anew.length, 'page')} from elsewhere`,
    go: 'Bring them in',
    leave: 'Leave them',
  }),
  apply(site, change) {
    const tree = treeOf(site)
    const fileIds = new Set(site.files.map(({ id }) => id))
    if (change.anew.some(({ id }) => !tree.byId.has(id))) return gone('A page that was to be replaced')
    if (change.filesAnew.some(({ id }) => !fileIds.has(id))) return gone('A file that was to be replaced')
    const known = new Set(tree.byId.keys())
    for (const { id, label } of change.pages) {
      const unusable = labelRefusal(label)
      if (unusable) return unusable
      if (known.has(id)) return refuse('invalid', 'One of these pages is part of the site already.')
      known.add(id)
    }
    const byParent = new Map<string | null, string[]>()
    for (const { id, parentId } of change.pages) {
      if (parentId !== null && !known.has(parentId)) return gone('The page to bring them in under')
      byParent.set(parentId, [...(byParent.get(parentId) ?? []), id])
    }
    if (change.files.some(({ id }) => fileIds.has(id)))
      return refuse('invalid', 'One of these files is part of the site already.')
    if (site.templates.length + change.templates.length > mostTemplates)
      return refuse('invalid', `A site has at most ${mostTemplates} templates.`)
    const orders = new Map<string, string>()
    for (const [parentId, ids] of byParent) {
      const last = treeOf(site)
        .childrenOf(parentId)
        .filter(({ id }) => id !== site.homeId)
        .pop()
      const keys = orderKeys(site, parentId, last?.id ?? null, ids.length)
      for (const [index, id] of ids.entries()) orders.set(id, keys[index]!)
    }
    let seq = site.nextSeq
    const added = change.pages.map((page): Page => ({ ...page, order: orders.get(page.id)!, seq: seq++ }))
    const files = change.files.map((file): SiteFile => ({ ...file, seq: seq++ }))
    const anew = new Map(change.anew.map((one) => [one.id, one]))
    const filesAnew = new Map(change.filesAnew.map((one) => [one.id, one]))
    const after = {
      ...site,
      nextSeq: seq,
      templates: [...site.templates, ...change.templates],
      pages: [...site.pages.map((page) => ({ ...page, ...anew.get(page.id) })), ...added],
      files: [...site.files.map((file) => ({ ...file, ...filesAnew.get(file.id) })), ...files],
    }
    return {
      site: { ...after, pages: heldAgainstOriginals(after, new Set(change.pages.map(({ id }) => id))) },
    }
  },
}
