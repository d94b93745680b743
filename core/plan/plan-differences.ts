import type { Page, Site } from '#core/site'
import type { PlanMatch } from './match'
import { pageDetails } from './outline'
import { longestIncreasing } from './order'
import { treeOf } from './tree'

/** What an edited plan would do, told for showing before it is done. Line numbers count the plan's lines from 0. */
export interface PlanDifferences {
  readonly renamed: readonly {
    readonly line: number
    readonly pageId: string
    readonly from: string
    readonly to: string
  }[]
  /** Pages that stand under another page than before. */
  readonly moved: readonly {
    readonly line: number
    readonly pageId: string
    /** Labels of the pages it stood under and stands under; null for the top level. */
    readonly from: string | null
    readonly to: string | null
  }[]
  /** Pages that stay under their page, in another order. */
  readonly reordered: readonly string[]
  readonly added: readonly { readonly line: number; readonly label: string }[]
  readonly removed: readonly string[]
  /** Pages whose marks (trial page, not in menus) or details change. */
  readonly marked: readonly string[]
}

/** Compares a matched plan with the site it was made from. */
export function planDifferences(site: Pick<Site, 'pages' | 'homeId'>, match: PlanMatch): PlanDifferences {
  const tree = treeOf(site)
  const renamed: { line: number; pageId: string; from: string; to: string }[] = []
  const moved: { line: number; pageId: string; from: string | null; to: string | null }[] = []
  const added: { line: number; label: string }[] = []
  const marked: string[] = []
  const reordered: string[] = []
  /** For each parent the pages that stay under it, in the new order. */
  const staying = new Map<string | null, Page[]>()
  const above: { id: string; label: string }[] = []
  match.lines.forEach(({ node, depth, pageId }, line) => {
    const parent = depth === 0 ? null : above[depth - 1]!
    const parentId = parent && parent.id
    above[depth] = { id: pageId ?? `new ${line}`, label: node.label }
    if (pageId === null) {
      added.push({ line, label: node.label })
      return
    }
    const page = tree.byId.get(pageId)!
    if (page.label !== node.label) renamed.push({ line, pageId, from: page.label, to: node.label })
    const was = page.parentId === site.homeId ? null : page.parentId
    if (was !== parentId) {
      const from = was === null ? null : tree.byId.get(was)!.label
      moved.push({ line, pageId, from, to: parent && parent.label })
    } else push(staying, parentId, page)
    if (differsInMarks(page, node)) marked.push(pageId)
  })
  for (const [parentId, pages] of staying) {
    const places = new Map(tree.childrenOf(parentId).map((page, index) => [page.id, index]))
    const inOrder = longestIncreasing(pages.map((page) => places.get(page.id)!))
    pages.forEach((page, index) => {
      if (!inOrder.has(index)) reordered.push(page.id)
    })
  }
  return { renamed, moved, reordered, added, removed: match.removed, marked }
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const list = map.get(key)
  if (list) list.push(value)
  else map.set(key, [value])
}

function differsInMarks(page: Page, node: PlanMatch['lines'][number]['node']): boolean {
  const { details = {} } = node
  return (
    page.trial !== node.trial ||
    page.inMenus !== node.inMenus ||
    pageDetails.some((name) => details[name] !== undefined && details[name] !== page[name])
  )
}
