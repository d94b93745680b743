import { attributeOf, type HtmlElement, type HtmlNode, isElement } from '#core/markup'
import { hintsOf, winningFor } from './cascade'
import type { RuleIndex } from './matching'
import { elementsOf, isQuirks } from './page-tree'
import { paint, type Painted, paintedPage } from './painted'
import type { ColourScheme } from './shades'

/** Whose text is not shown as text of the page, or as the browser has it. */
const notShown =
  /^(head|script|style|template|noscript|title|iframe|object|svg|math|select|textarea|input|audio|video|canvas|img|noframes|datalist|progress|meter)$/

/** Elements of a page with how their text is seen, those that are not shown left out; in the order of the page. */
export function* paintedElements(
  root: HtmlNode,
  rules: RuleIndex,
  scheme: ColourScheme,
): Generator<{ readonly element: HtmlElement; readonly painted: Painted }> {
  const isDarkAsked = scheme === 'dark'
  let body: HtmlElement | null = null
  let isDarkMeant = false
  for (const element of elementsOf(root)) {
    if (element.tagName === 'body') body ??= element
    if (element.tagName === 'meta' && attributeOf(element, 'name')?.toLowerCase() === 'color-scheme')
      isDarkMeant = /\bdark\b/i.test(attributeOf(element, 'content') ?? '')
  }
  let quirksText: Painted['text'] | null = null
  let rootPx: number | null = 16
  const stack: { readonly element: HtmlElement; readonly around: Painted }[] = []
  const push = (parent: HtmlNode, around: Painted) => {
    if (!('childNodes' in parent)) return
    for (let at = parent.childNodes.length - 1; at >= 0; at--) {
      const element = parent.childNodes[at]!
      if (isElement(element) && !notShown.test(element.tagName)) stack.push({ element, around })
    }
  }
  push(root, paintedPage(isDarkAsked && isDarkMeant))
  while (stack.length > 0) {
    const { element, around } = stack.pop()!
    const painted = paint(element, winningFor(element, rules), hintsOf(element, body), around, {
      ...{ rootPx, isDarkAsked, quirksText },
    })
    if (element.tagName === 'html') rootPx = painted.letters.px
    if (element === body && isQuirks(root)) quirksText = painted.text
    if (painted.isGone) continue
    push(element, painted)
    if (!painted.isHidden) yield { element, painted }
  }
}
