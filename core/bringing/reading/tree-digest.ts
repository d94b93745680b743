import { type HtmlNode, isElement, walkHtml } from '#core/markup'
import { digestOf } from './digest'
import {
  childrenOf,
  doctypeKey,
  type GoalOf,
  isCharset,
  scriptKey,
  shownText,
  startTagKey,
} from './page-tree'

/** The digest of a node of whose children the digests are known; null for white space. */
export function digestOfNode(
  node: HtmlNode,
  digests: ReadonlyMap<HtmlNode, string>,
  goalOf: GoalOf,
): string | null {
  if (node.nodeName === '#text' && 'value' in node) {
    const isScript = 'parentNode' in node && node.parentNode?.nodeName === 'script'
    const text = isScript ? scriptKey(node.value, goalOf) : shownText(node.value)
    return text === '' ? null : digestOf(`text ${text}`)
  }
  const inside = childrenOf(node)
    .map((child) => digests.get(child) ?? '')
    .join('')
  if (isElement(node)) return digestOf(`${startTagKey(node, goalOf)} ${inside}`)
  return digestOf(
    'data' in node ? `<!--${String(node.data)}-->` : (doctypeKey(node) ?? `${node.nodeName} ${inside}`),
  )
}

/** One digest of a whole page, but for what it says of its encoding: all pages go out in one. */
export function treeDigest(root: HtmlNode): string {
  const digests = new Map<HtmlNode, string>()
  const inOrder: HtmlNode[] = []
  walkHtml(root, (node) => void inOrder.push(node))
  for (let at = inOrder.length - 1; at >= 0; at--) {
    const node = inOrder[at]!
    const digest = isCharset(node) ? null : digestOfNode(node, digests, (href) => href)
    if (digest !== null) digests.set(node, digest)
  }
  return digests.get(root)!
}
