import { tableOf } from '#core/site'
import type * as csstree from 'css-tree'
import type { ColourScheme } from './shades'

/** What a page is shown on: a wide screen, with a mouse, and no wishes but that of its colours. */
const viewport = { width: 1280, height: 800 }
const wishes = tableOf<string>({
  'prefers-reduced-motion': 'no-preference',
  'prefers-contrast': 'no-preference',
  'prefers-reduced-data': 'no-preference',
  'prefers-reduced-transparency': 'no-preference',
  'inverted-colors': 'none',
  'forced-colors': 'none',
  hover: 'hover',
  'any-hover': 'hover',
  pointer: 'fine',
  'any-pointer': 'fine',
  orientation: 'landscape',
  'display-mode': 'browser',
  scripting: 'enabled',
  update: 'fast',
})

const pixels = tableOf<number>({
  px: 1,
  em: 16,
  rem: 16,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 9.6 / 2.54,
})

type Node = csstree.CssNode | { readonly type: string }

/** A length of a query in pixels; what is no length, as it is written. */
function valueOf(node: Node | null): number | string | null {
  if (!node) return null
  if (node.type === 'Dimension' && 'unit' in node) {
    const unit = pixels[node.unit.toLowerCase()]
    return unit === undefined ? null : Number(node.value) * unit
  }
  if (node.type === 'Number' && 'value' in node) return Number(node.value)
  if (node.type === 'Identifier' && 'name' in node) return node.name.toLowerCase()
  return null
}

function featureHolds(name: string, value: number | string | null, scheme: ColourScheme): boolean {
  const limit = /^(min|max)-(width|height)$/.exec(name)
  if (limit && typeof value === 'number') {
    const size = viewport[limit[2] as keyof typeof viewport]
    return limit[1] === 'min' ? size >= value : size <= value
  }
  if (name === 'prefers-color-scheme') return value === null || value === scheme
  if (name === 'width' || name === 'height') return value === null || value === viewport[name]
  if (name === 'color' || name === 'color-gamut') return true
  const wish = wishes[name]
  if (wish === undefined) return false
  return value === null ? !/^no/.test(wish) : wish === value
}

const compare = tableOf<(a: number, b: number) => boolean>({
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
})

/** A range such as `20em <= width < 60em` (Media Queries 4 §2.4.3). */
function rangeHolds(node: csstree.FeatureRange): boolean {
  const sideOf = (side: Node) => {
    const value = valueOf(side)
    return value === 'width' || value === 'height'
      ? viewport[value]
      : typeof value === 'number'
        ? value
        : null
  }
  const pairs = [
    [sideOf(node.left), node.leftComparison, sideOf(node.middle)],
    ...(node.right ? [[sideOf(node.middle), node.rightComparison, sideOf(node.right)]] : []),
  ] as [number | null, string, number | null][]
  return pairs.every(([a, sign, b]) => a !== null && b !== null && (compare[sign] ?? (() => false))(a, b))
}

/** Whether a condition of a query holds (Media Queries 4 §2.5); what is unknown does not. */
function conditionHolds(node: csstree.CssNode, scheme: ColourScheme): boolean {
  if (node.type === 'Feature') return featureHolds(node.name.toLowerCase(), valueOf(node.value), scheme)
  if (node.type === 'FeatureRange') return rangeHolds(node)
  if (node.type !== 'Condition') return false
  let holds: boolean | null = null
  let joins = 'and'
  let turns = false
  node.children.forEach((child) => {
    if (child.type === 'Identifier') {
      if (child.name.toLowerCase() === 'not') turns = true
      else joins = child.name.toLowerCase()
      return
    }
    const one = conditionHolds(child, scheme) !== turns
    turns = false
    holds = holds === null ? one : joins === 'or' ? holds || one : holds && one
  })
  return holds ?? true
}

/** Whether a list of media queries holds for what a page is shown on: one of them does. */
export function mediaHold(list: csstree.CssNode, scheme: ColourScheme): boolean {
  if (list.type !== 'MediaQueryList') return false
  let any = list.children.isEmpty
  list.children.forEach((query) => {
    if (query.type !== 'MediaQuery') return
    const type = query.mediaType?.toLowerCase() ?? 'all'
    const holds =
      (type === 'all' || type === 'screen') &&
      (query.condition === null || conditionHolds(query.condition, scheme))
    if (holds !== (query.modifier?.toLowerCase() === 'not')) any = true
  })
  return any
}
