import * as csstree from 'css-tree'
import { parseCss } from './css-syntax'
import type { Reference } from './reference'

/**
 * References in a style sheet: every `url()` and the strings of `@import` (CSS Values 4 §4.5).
 * @param context `declarationList` for a style attribute
 */
export function findCssReferences(
  css: string,
  context: 'stylesheet' | 'declarationList' = 'stylesheet',
): Reference[] {
  // A style attribute without one of these has no reference, and most have none.
  if (!/url\(|@import/i.test(css)) return []
  // A parser of rules in rules goes as deep as they are nested, and nobody nests like this.
  if (isTooNested(css)) return []
  const found: Reference[] = []
  const tree = parseCss(css, {
    context,
    positions: true,
    parseValue: true,
    parseCustomProperty: true,
    parseAtrulePrelude: true,
    onParseError: () => {},
  })
  const push = (node: csstree.CssNode, href: string, holder: string) => {
    const { start, end: after } = node.loc!
    const source = css.slice(start.offset, after.offset)
    if (node.type === 'String') {
      found.push({ start: start.offset + 1, end: after.offset - 1, href, syntax: 'css-string', holder })
      return
    }
    const inner = /^url\(\s*(["']?)/i.exec(source)
    if (!inner) return
    let end = source.endsWith(')') ? source.length - 1 : source.length
    end = source.slice(0, end).trimEnd().length
    if (inner[1] && source[end - 1] === inner[1]) end -= 1
    found.push({
      start: start.offset + inner[0].length,
      end: start.offset + Math.max(inner[0].length, end),
      href,
      syntax: inner[1] ? 'css-string' : 'css-url',
      holder,
    })
  }
  csstree.walk(tree, function (node) {
    if (node.type === 'Url') push(node, node.value, this.atrule?.name === 'import' ? '@import' : 'url()')
    else if (node.type === 'String' && this.atrule?.name.toLowerCase() === 'import' && !this.block)
      push(node, node.value, '@import')
  })
  return found
}

/** Rules, brackets and functions in one another, at most. */
const deepestNesting = 200

/** Whether a style sheet is nested deeper than a parser of rules in rules should follow. */
export const isTooNested = (css: string): boolean => nestingOf(css) > deepestNesting

/** How deep brackets of any kind stand in one another, counted without looking at what they mean. */
function nestingOf(css: string): number {
  let depth = 0
  let most = 0
  for (let at = 0; at < css.length; at++) {
    const sign = css.charCodeAt(at)
    if (sign === 40 || sign === 91 || sign === 123) most = Math.max(most, ++depth)
    else if (sign === 41 || sign === 93 || sign === 125) depth = Math.max(0, depth - 1)
  }
  return most
}
