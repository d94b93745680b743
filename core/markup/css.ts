import * as csstree from 'css-tree'

/** A reference as it stands in a text. */
export interface Reference {
  /** Where the value stands, quotes excluded; UTF-16 offsets into the text. */
  readonly start: number
  readonly end: number
  /** The value with character references and CSS escapes resolved. */
  readonly href: string
  /** How the value has to be written there. */
  readonly syntax: 'attribute' | 'unquoted-attribute' | 'srcset' | 'css-string' | 'css-url'
  /** What holds it, for showing: `a href`, `@import`, `url()`. */
  readonly holder: string
}

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
  const found: Reference[] = []
  const tree = csstree.parse(css, {
    context,
    positions: true,
    parseValue: true,
    parseCustomProperty: true,
    parseAtrulePrelude: true,
    onParseError: () => {},
  })
  const push = (node: csstree.CssNode, href: string, holder: string) => {
    const { start, end } = node.loc!
    const source = css.slice(start.offset, end.offset)
    if (node.type === 'String') {
      found.push({ start: start.offset + 1, end: end.offset - 1, href, syntax: 'css-string', holder })
      return
    }
    const inner = /^url\(\s*(["']?)/i.exec(source)
    const tail = /(["']?)\s*\)?$/.exec(source)
    if (!inner || !tail) return
    found.push({
      start: start.offset + inner[0].length,
      end: Math.max(start.offset + inner[0].length, end.offset - tail[0].length),
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
