import * as csstree from 'css-tree'
import { isTooNested, parseCss } from '#core/markup'
import { mediaHold } from './media'
import type { ColourScheme } from './shades'
import { readColourValue } from './values'

/** Where a value stands in a style sheet: UTF-16 offsets, `line` and `column` from 1. */
export interface DeclaredAt {
  /** The file's path from the top of the site; null in the page itself. */
  readonly path: string | null
  readonly start: number
  readonly end: number
  readonly line: number
  readonly column: number
}

/** One declaration of a property that bears on how text is seen. */
export interface Declared {
  readonly property: string
  readonly value: string
  readonly isImportant: boolean
  readonly at: DeclaredAt
}

/** A selector with what it declares. */
export interface StyleRule {
  readonly selector: string
  readonly declared: readonly Declared[]
  readonly layer: Layer
}

/** A cascade layer (CSS Cascade 5 §6.4). */
export interface Layer {
  readonly inner: Map<string, Layer>
  /** Its place among all: later ones win; known when all is read. */
  rank: number
}

/** A style sheet as it is written: a file's, or what a page has in a `style`. */
export interface SheetText {
  readonly path: string | null
  readonly text: string
  /** For which media it is, as a page says it; null for all. */
  readonly media: string | null
}

/** Finds the text of a sheet that another imports; null where there is none. */
export type ImportOf = (href: string, from: string | null) => SheetText | null

/** What has to be known of an element to tell what colour its text is seen in. */
const bearing = new Set(['color', 'background', 'background-color', 'background-image', 'background-clip', '-webkit-background-clip', '-webkit-text-fill-color', 'font', 'font-family', 'font-size', 'font-weight', 'display', 'visibility', 'opacity', 'position', 'clip', 'clip-path', 'width', 'height', 'left', 'right', 'top', 'text-indent', 'text-shadow', 'filter', 'backdrop-filter', 'mix-blend-mode', 'color-scheme', 'content-visibility', 'transform']) // prettier-ignore

/** Rules of all sheets of a page, and imports in one another, that are followed. */
const mostRules = 20_000
const deepestImport = 5
const mostSheets = 200
/** Letters of all selectors of a rule with those around it: lists within lists double at each step. */
const longestSelectors = 5_000

const newLayer = (): Layer => ({ inner: new Map(), rank: 0 })

function layerIn(outer: Layer, name: string): Layer {
  let layer = outer
  for (const part of name.split('.')) {
    const known = layer.inner.get(part) ?? newLayer()
    layer.inner.set(part, known)
    layer = known
  }
  return layer
}

/** Layers in the order in which they win; what stands in none of its inner ones comes after those. */
function rankLayers(layer: Layer, from = 0): number {
  let next = from
  for (const inner of layer.inner.values()) next = rankLayers(inner, next)
  layer.rank = next
  return next + 1
}

/** A selector within others: `&` is what it stands in, and so is what comes before one without it (CSS Nesting 1 §3). */
function nested(selector: csstree.CssNode, outer: string | null): string {
  const written = csstree.generate(selector)
  if (outer === null) return written.replaceAll('&', ':root')
  if (csstree.find(selector, ({ type }) => type === 'NestingSelector'))
    return written.replaceAll('&', `:is(${outer})`)
  return `:is(${outer}) ${written}`
}

/** Whether what `@supports` asks for is there: browsers of today know what their authors write. */
const supports = (prelude: csstree.CssNode | null) =>
  !prelude || !/^\s*not\b/i.test(csstree.generate(prelude))

/** Whether browsers pass over a declaration, so that an earlier one holds: it should be a colour and is none. */
const isNoColour = (property: string, value: string) =>
  /^(background-)?color$/.test(property) &&
  !/var\(|^\s*(inherit|initial|unset|revert|revert-layer)\s*$/i.test(value) &&
  readColourValue(value, 'light') === null

/** The media that an attribute names, as a list of queries. */
const readMedia = (media: string) =>
  csstree.parse(media, { context: 'mediaQueryList', onParseError: () => {} })

/** Reads declarations: a block's, or those of a `style` attribute. */
function declarationsIn(
  block: csstree.CssNode,
  { path, text }: Pick<SheetText, 'path' | 'text'>,
): Declared[] {
  const found: Declared[] = []
  if (block.type !== 'Block' && block.type !== 'DeclarationList') return found
  block.children.forEach((node) => {
    if (node.type !== 'Declaration') return
    const property = node.property.startsWith('--') ? node.property : node.property.toLowerCase()
    if (!property.startsWith('--') && !bearing.has(property)) return
    const value = csstree.generate(node.value)
    if (isNoColour(property, value)) return
    const { start, end } = node.value.loc ?? node.loc!
    // The space around it is no part of it.
    const written = text.slice(start.offset, end.offset)
    const lead = written.length - written.trimStart().length
    const from = start.offset + lead
    found.push({
      property,
      value: value.trim(),
      isImportant: node.important !== false,
      at: {
        ...{ path, start: from, end: from + written.trim().length },
        ...{ line: start.line, column: start.column + lead },
      },
    })
  })
  return found
}

/** What a `style` attribute declares; offsets are into its value. */
export function inlineDeclarations(style: string): Declared[] {
  if (isTooNested(style)) return []
  const options = { context: 'declarationList', positions: true, onParseError: () => {} }
  return declarationsIn(parseCss(style, options), { path: null, text: style })
}

/** Where a rule is read: within which others, in which layer of which sheet, so many imports deep. */
interface Around {
  readonly outer: string | null
  readonly layer: Layer
  readonly sheet: SheetText
  readonly depth: number
}

/** Rules of style sheets in their order, as they hold on a screen in one of its colours. */
export function readRules(
  sheets: readonly SheetText[],
  scheme: ColourScheme,
  importOf: ImportOf,
): readonly StyleRule[] {
  const rules: StyleRule[] = []
  const top = newLayer()
  let nameless = 0
  let sheetCount = 0

  const readSheet = (sheet: SheetText, layer: Layer, depth: number): void => {
    const { text, media } = sheet
    if (++sheetCount > mostSheets || isTooNested(text)) return
    if (media !== null && !mediaHold(readMedia(media), scheme)) return
    const tree = parseCss(text, { positions: true, onParseError: () => {} })
    if (tree.type === 'StyleSheet') readAll(tree.children, { outer: null, layer, sheet, depth })
  }

  const readAtrule = (node: csstree.Atrule, around: Around): void => {
    const { layer, sheet, depth } = around
    const name = node.name.toLowerCase()
    const inside = (inLayer: Layer) => {
      if (node.block) readBlock(node.block, { ...around, layer: inLayer })
    }
    const queries = node.prelude && csstree.find(node.prelude, ({ type }) => type === 'MediaQueryList')
    if (name === 'media') {
      if (!queries || mediaHold(queries, scheme)) inside(layer)
    } else if (name === 'supports') {
      if (supports(node.prelude)) inside(layer)
    } else if (name === 'layer') {
      const names: string[] = []
      if (node.prelude)
        csstree.walk(node.prelude, (one) => {
          if (one.type === 'Layer') names.push(one.name)
        })
      for (const one of names) layerIn(layer, one)
      if (node.block) inside(layerIn(layer, names[0] ?? `(${nameless++})`))
    } else if (name === 'import') {
      if (depth >= deepestImport || (queries && !mediaHold(queries, scheme))) return
      const href =
        node.prelude && csstree.find(node.prelude, ({ type }) => type === 'Url' || type === 'String')
      const imported = href && 'value' in href ? importOf(String(href.value), sheet.path) : null
      const asked = node.prelude ? csstree.generate(node.prelude) : ''
      const named = /\blayer(?:\(([^)]*)\))?/i.exec(asked.replace(/^\s*(url\([^)]*\)|"[^"]*"|'[^']*')/i, ''))
      if (imported)
        readSheet(imported, named ? layerIn(layer, named[1]?.trim() || `(${nameless++})`) : layer, depth + 1)
    }
    // What holds for some elements or moments only is left out, with what declares no style of an element.
  }

  const readRule = ({ prelude, block }: csstree.Rule, around: Around): void => {
    if (prelude.type !== 'SelectorList') return
    const selectors: string[] = []
    prelude.children.forEach((one) => selectors.push(nested(one, around.outer)))
    const declared = declarationsIn(block, around.sheet)
    for (const selector of selectors)
      if (declared.length > 0 && rules.length < mostRules)
        rules.push({ selector, declared, layer: around.layer })
    const outer = selectors.join(',')
    if (outer.length <= longestSelectors) readAll(block.children, { ...around, outer })
  }

  /** A block of an at-rule: rules, and within a rule declarations of what is around it. */
  const readBlock = (block: csstree.Block, around: Around): void => {
    const { outer, layer, sheet } = around
    const declared = outer === null ? [] : declarationsIn(block, sheet)
    if (declared.length > 0 && rules.length < mostRules)
      rules.push({ selector: `:is(${outer})`, declared, layer })
    readAll(block.children, around)
  }

  const readAll = (nodes: csstree.List<csstree.CssNode>, around: Around): void => {
    nodes.forEach((node) => {
      if (node.type === 'Rule') readRule(node, around)
      else if (node.type === 'Atrule') readAtrule(node, around)
    })
  }

  for (const sheet of sheets) readSheet(sheet, top, 0)
  rankLayers(top)
  return rules
}
