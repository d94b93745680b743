import { type HtmlElement, type HtmlNode, isElement, rowsOf, walkHtml } from '#core/markup'
import { made, styleOf } from './made'

const boldStyle = /font-weight:\s*(bold|[6-9]00)/i

/** Classes that a program's own style sheet makes bold. */
function boldClasses(html: string): ReadonlySet<string> {
  const classes = new Set<string>()
  const text = html.toLowerCase()
  let at = text.indexOf('<style')
  while (at >= 0) {
    const end = text.indexOf('</style', at)
    if (end < 0) break
    for (const rule of html.slice(at, end).split('}')) {
      const [selector = '', body = ''] = rule.split('{')
      if (boldStyle.test(body)) for (const [, name] of selector.matchAll(/\.([\w-]+)/g)) classes.add(name!)
    }
    at = text.indexOf('<style', end)
  }
  return classes
}

/** Whether all that a cell says is bold; null for one that says nothing. */
function isBold(cell: HtmlElement, classes: ReadonlySet<string>): boolean | null {
  const says = (node: HtmlElement) =>
    boldStyle.test(styleOf(node)) ||
    /^(b|strong|th)$/.test(node.tagName) ||
    (node.attrs.find(({ name }) => name === 'class')?.value ?? '')
      .split(/\s+/)
      .some((one) => classes.has(one))
  if (says(cell)) return textIn(cell) === '' ? null : true
  let plain = 0
  let bold = 0
  const stack: { node: HtmlNode; isIn: boolean }[] = [{ node: cell, isIn: false }]
  while (stack.length > 0) {
    const { node, isIn } = stack.pop()!
    if (node.nodeName === '#text' && 'value' in node && node.value.trim() !== '') {
      if (isIn) bold += 1
      else plain += 1
    }
    const isInside = isIn || (isElement(node) && node !== cell && says(node))
    if ('childNodes' in node) for (const child of node.childNodes) stack.push({ node: child, isIn: isInside })
  }
  return plain + bold === 0 ? null : plain === 0
}

function textIn(cell: HtmlElement): string {
  let text = ''
  walkHtml(cell, (node) => {
    if (node.nodeName === '#text' && 'value' in node && text.length < 20) text += node.value.trim()
  })
  return text
}

/**
 * Makes heads of what a spreadsheet or a word processor shows as some: a first row, or a first column, that is bold as a
 * whole where the rest is not (HTML §4.9.10).
 * @param html the text that `root` is of, with the style sheet that came with it
 */
export function makeHeads(root: HtmlNode, html: string): void {
  const tables = tablesIn(root)
  if (tables.length === 0) return
  const classes = boldClasses(html)
  for (const table of tables) {
    const rows = rowsOf(table)
    const [first = [], ...rest] = rows
    if (rest.length === 0 || rows.some((row) => row.some(({ tagName }) => tagName === 'th'))) continue
    const bold = rows.map((row) => row.map((cell) => isBold(cell, classes)))
    const isAll = (some: readonly (boolean | null)[]) =>
      some.some((one) => one === true) && !some.includes(false)
    const inner = bold.slice(1).flatMap((row) => row.slice(1))
    // All of it bold says nothing.
    if (!inner.includes(false) && bold.slice(1).every((row) => row[0] !== false)) continue
    const isRow = first.length > 1 && isAll(bold[0]!)
    const isColumn = isAll(bold.slice(isRow ? 1 : 0).map((row) => row[0]!))
    // An empty corner heads nothing.
    if (isColumn)
      for (const [at, [cell]] of rows.entries())
        if (bold[at]![0] && !(isRow && at === 0)) makeHead(cell!, 'row')
    if (!isRow) continue
    for (const [at, cell] of first.entries()) if (bold[0]![at]) makeHead(cell, 'col')
    inTheirOwnPart(table, first[0]!)
  }
}

/** Tables that hold no other: one that does puts things side by side. */
function tablesIn(root: HtmlNode): HtmlElement[] {
  const tables = new Set<HtmlElement>()
  const stack: { node: HtmlNode; around: HtmlElement | null }[] = [{ node: root, around: null }]
  while (stack.length > 0) {
    const { node, around } = stack.pop()!
    const isTable = isElement(node) && node.tagName === 'table'
    if (isTable && around) tables.delete(around)
    if (isTable) tables.add(node)
    if ('childNodes' in node)
      for (let at = node.childNodes.length - 1; at >= 0; at--)
        stack.push({ node: node.childNodes[at]!, around: isTable ? node : around })
  }
  return [...tables]
}

function makeHead(cell: HtmlElement, scope: 'col' | 'row'): void {
  const changed = cell as { nodeName: string; tagName: string }
  changed.nodeName = changed.tagName = 'th'
  cell.attrs.push({ name: 'scope', value: scope })
  // A head is bold without saying so.
  walkHtml(cell, (node) => {
    if (isElement(node) && /^(b|strong)$/.test(node.tagName)) {
      const bold = node as { nodeName: string; tagName: string }
      bold.nodeName = bold.tagName = 'span'
    }
  })
}

/** Puts the row of a cell into a `thead` of its own, before all else. */
function inTheirOwnPart(table: HtmlElement, cell: HtmlElement): void {
  const row = cell.parentNode as HtmlElement
  const part = row.parentNode as HtmlElement
  if (part.tagName === 'thead') return
  part.childNodes.splice(part.childNodes.indexOf(row), 1)
  const head = made('thead')
  head.childNodes.push(row)
  const at = table.childNodes.findIndex(
    (one: HtmlNode) => isElement(one) && /^(thead|tbody|tfoot|tr)$/.test(one.tagName),
  )
  table.childNodes.splice(Math.max(0, at), 0, head)
}
