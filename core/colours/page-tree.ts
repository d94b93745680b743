import { type HtmlElement, type HtmlNode, isElement } from '#core/markup'

/** Elements of a page in its order, without going deeper than the stack allows. */
export function* elementsOf(root: HtmlNode): Generator<HtmlElement> {
  const stack: HtmlNode[] = [root]
  while (stack.length > 0) {
    const node = stack.pop()!
    if (isElement(node)) yield node
    if ('childNodes' in node)
      for (let at = node.childNodes.length - 1; at >= 0; at--) stack.push(node.childNodes[at]!)
  }
}

/** Whether a page is read in quirks mode (Quirks Mode §2). */
export const isQuirks = (root: HtmlNode): boolean => 'mode' in root && root.mode === 'quirks'
