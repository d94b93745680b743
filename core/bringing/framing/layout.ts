import type { OutlineNode } from '../reading/outline'

/** What stands in a table that is no cell, and is the same in all pages that are laid out alike. */
const between = /^(thead|tbody|tfoot|tr)$/
const cell = /^t[dh]$/

/** The cells of a table in order, with what stands around them as one key; null where something in it is no part of a grid. */
function gridOf(table: OutlineNode): { readonly key: string; readonly cells: readonly OutlineNode[] } | null {
  const cells: OutlineNode[] = []
  const keys: string[] = []
  const visit = (nodes: readonly OutlineNode[]): boolean =>
    nodes.every((node) => {
      const tag = node.tagName ?? ''
      if (cell.test(tag)) {
        cells.push(node)
        keys.push(node.key)
        return node.inside !== null
      }
      // Captions, columns and comments are the frame's where they are the same.
      keys.push(between.test(tag) ? node.key : node.digest)
      return !between.test(tag) || visit(node.children)
    })
  return visit(table.children) && cells.length > 0 ? { key: keys.join(' '), cells } : null
}

/** What pages are written in, and facts are not; a typeface was put around either, and around whole pages most of all. */
const written = /^(h[1-6]|p|table|ul|ol|dl|div|hr|form|pre|blockquote|center|font)$/
const writtenIn = ({ children }: OutlineNode): number =>
  children.filter(({ tagName }) => tagName !== null && written.test(tagName)).length

/** How much of what it stands in a table has to take up to be what that is laid out by. */
const share = 0.5

/**
 * The cells of tables that pages are laid out by, by their places: each of them in every page. Such a table is most of
 * what it stands in, and has the same rows and cells everywhere. A table of facts has
 * header cells, or nothing but words in its cells: what it has is what its page says, and stays together.
 * @param tables one of each page
 * @param within how long the text is that each stands in
 * @returns null for any other tables
 */
export function layoutCells(
  tables: readonly OutlineNode[],
  within: readonly number[],
): readonly (readonly OutlineNode[])[] | null {
  if (!tables.every(({ tagName }) => tagName === 'table')) return null
  const isMost = tables.every(
    ({ range }, index) => range !== null && range.end - range.start >= share * within[index]!,
  )
  if (!isMost) return null
  const [first, ...grids] = tables.map(gridOf)
  if (!first || !grids.every((grid) => grid?.key === first.key)) return null
  const cells = first.cells.map((one, at) => [one, ...grids.map((grid) => grid!.cells[at]!)])
  if (first.cells.some(({ tagName }) => tagName === 'th')) return null
  const isSame = (all: readonly OutlineNode[]) => all.every(({ digest }) => digest === all[0]!.digest)
  // One cell around all, or a cell that is the same, goes with anything written; else it is a page's length.
  const least = cells.length === 1 || cells.some(isSame) ? 1 : 2
  const isOwn = (all: readonly OutlineNode[]) => !isSame(all) && all.some((one) => writtenIn(one) >= least)
  return cells.some(isOwn) ? cells : null
}
