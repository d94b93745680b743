import { digestOf, type HtmlNode, isElement } from '#core/markup'
import { doctypeKey, type GoalOf, inOrderOf, isCharset, scriptKey, shownText, startTagKey } from './page-tree'

/**
 * The digest of a node; null for white space.
 * @param inside those of what it holds, one after the other
 */
export function digestOfNode(node: HtmlNode, inside: string, goalOf: GoalOf): string | null {
  if (node.nodeName === '#text' && 'value' in node) {
    const isScript = node.parentNode?.nodeName === 'script'
    const text = isScript ? scriptKey(node.value, goalOf) : shownText(node.value)
    return text === '' ? null : digestOf(`text ${text}`)
  }
  if (isElement(node)) return digestOf(`${startTagKey(node, goalOf)} ${inside}`)
  return digestOf('data' in node ? `<!--${node.data}-->` : (doctypeKey(node) ?? `${node.nodeName} ${inside}`))
}

/** One digest of a whole page, but for what it says of its encoding: all pages go out in one. */
export function treeDigest(root: HtmlNode): string {
  const { nodes, parents } = inOrderOf(root)
  const inside = nodes.map(() => '')
  let whole = ''
  for (let at = nodes.length - 1; at >= 0; at--) {
    const node = nodes[at]!
    const digest = isCharset(node) ? null : digestOfNode(node, inside[at]!, (href) => href)
    if (digest === null) continue
    const parent = parents[at]!
    if (parent >= 0) inside[parent] = digest + inside[parent]!
    else whole = digest
  }
  return whole
}
