import { attributeOf, type HtmlElement, type HtmlNode, isElement } from '#core/markup'
import { nameOf } from './elements'

/** What a table holds of its own, that of tables in it not counted. */
interface TableSeen {
  readonly parts: HtmlElement[]
  rows: number
  cells: number
  /** Most headings, lists and paragraphs of one cell. */
  blocks: number
  inCell: number
  /** Whether something heads it, or its rows and columns. */
  isHeaded: boolean
  holdsTable: boolean
}

const isPart = (tag: string) => /^(table|caption|colgroup|thead|tbody|tfoot|tr|th|td)$/.test(tag)
const weightOf = (tag: string) => (/^(h[1-6]|ul|ol|dl)$/.test(tag) ? 2 : tag === 'p' ? 1 : 0)

/**
 * Whether it puts things beside each other instead of saying what belongs to what (HTML §4.9.1): it is said to, it holds
 * another table, one cell, or one row or column of whole texts; and nothing heads it.
 */
function isLayout({ parts, ...seen }: TableSeen): boolean {
  const role = attributeOf(parts[0]!, 'role')
  if (role === 'presentation' || role === 'none') return true
  return (
    !seen.isHeaded &&
    (seen.holdsTable || seen.cells <= 1 || ((seen.rows === 1 || seen.rows === seen.cells) && seen.blocks > 1))
  )
}

/** Makes boxes of tables that only lay a page out, and of their parts. Once over the tree, which is changed. */
export function dissolveLayout(root: HtmlNode): void {
  const all: TableSeen[] = []
  const stack: { node: HtmlNode; table: TableSeen | null }[] = [{ node: root, table: null }]
  while (stack.length > 0) {
    const { node, table } = stack.pop()!
    let inside = table
    if (isElement(node)) {
      // What is left out with all in it is nothing of a table.
      if (nameOf(node) === null) continue
      const tag = node.tagName
      if (tag === 'table') {
        if (table) table.holdsTable = true
        inside = { parts: [], rows: 0, cells: 0, blocks: 0, inCell: 0, isHeaded: false, holdsTable: false }
        all.push(inside)
      }
      if (inside) note(inside, node, tag)
    }
    if (!('childNodes' in node)) continue
    for (let at = node.childNodes.length - 1; at >= 0; at--)
      stack.push({ node: node.childNodes[at]!, table: inside })
  }
  for (const table of all)
    if (isLayout(table))
      for (const part of table.parts) Object.assign(part, { tagName: 'div', nodeName: 'div' })
}

function note(table: TableSeen, element: HtmlElement, tag: string): void {
  if (isPart(tag)) table.parts.push(element)
  if (tag === 'tr') table.rows += 1
  if (tag === 'td' || tag === 'th') {
    table.cells += 1
    table.inCell = 0
  }
  table.isHeaded ||= tag === 'th' || tag === 'caption' || tag === 'thead'
  table.inCell += weightOf(tag)
  table.blocks = Math.max(table.blocks, table.inCell)
}
