import type { HtmlElement, HtmlNode } from './tree'

/** What an attribute of an element says; undefined where it has none of that name. */
export const valueOf = (element: HtmlElement, name: string): string | undefined =>
  element.attrs.find((one) => one.name === name)?.value

/** All that an element says, its white space as it is shown. */
export function wordsIn(element: HtmlElement, most = 200): string {
  let words = ''
  const stack: HtmlNode[] = [element]
  while (stack.length > 0 && words.length < most) {
    const node = stack.pop()!
    if (node.nodeName === '#text' && 'value' in node) words += node.value
    else if ('tagName' in node && node.tagName === 'img') words += valueOf(node, 'alt') ?? ''
    if ('childNodes' in node)
      for (let at = node.childNodes.length - 1; at >= 0; at--) stack.push(node.childNodes[at]!)
  }
  return words.replace(/\s+/g, ' ').trim().slice(0, most)
}
