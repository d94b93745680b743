import * as csstree from 'css-tree'
import { parseCss } from './css-syntax'
import { findCssReferences, isTooNested } from './css'
import type { Reference } from './reference'
import type { Range } from './indent'
import { type LinePlace, Lines } from './lines'
import { pieceOf } from './parse'

/** Something in a style sheet that browsers pass over. */
export interface StyleFault extends Range {
  readonly kind: 'syntax' | 'unknown-property' | 'unknown-value'
  /** The property; '' for what is no CSS at all. */
  readonly name: string
}

/** What one reading of a style sheet yields. Depends on nothing but its text. */
export interface StyleFacts {
  readonly references: readonly (Reference & LinePlace)[]
  /** The first of its faults, in order. */
  readonly faults: readonly (StyleFault & LinePlace & { readonly piece: string })[]
}

/** Faults told of one style sheet. */
const mostFaults = 200
const isOwnOrVendors = (property: string) => /^(?:--|-\w+-|mso-)/.test(property)

/**
 * Whether a name means something in an at-rule that holds no style rules, as `src` does in `@font-face` (CSS Fonts 4 §4)
 * and `size` in `@page`. In one that is not known here, everything may.
 */
function isDescriptor(atrule: string, name: string): boolean {
  const descriptors = csstree.lexer.getAtrule(atrule)?.descriptors
  return !descriptors || Object.keys(descriptors).includes(name.toLowerCase())
}

/** Reads a style sheet once, for all that later steps ask. */
export function readStyle(css: string): StyleFacts {
  const lines = new Lines(css)
  const faults = findStyleFaults(css).map((fault) => ({
    ...fault,
    ...lines.placeOf(fault.start),
    piece: pieceOf(css, fault.start, fault.end),
  }))
  const references = findCssReferences(css).map((one) => ({ ...one, ...lines.placeOf(one.start) }))
  return { references, faults }
}

/**
 * What browsers pass over, by the syntax of CSS and the values that its properties can have.
 * @param context `declarationList` for a style attribute
 */
export function findStyleFaults(
  css: string,
  context: 'stylesheet' | 'declarationList' = 'stylesheet',
): StyleFault[] {
  if (isTooNested(css)) return []
  const faults: StyleFault[] = []
  const tree = parseCss(css, {
    context,
    positions: true,
    parseCustomProperty: false,
    onParseError: ({ offset }) => {
      const end = css.indexOf('\n', offset)
      faults.push({ kind: 'syntax', name: '', start: offset, end: end < 0 ? css.length : end })
    },
  })
  csstree.walk(tree, function (node) {
    if (faults.length >= mostFaults) return
    if (node.type !== 'Declaration' || !node.loc || isOwnOrVendors(node.property)) return
    const { property: name } = node
    const [start, end] = [node.loc.start.offset, node.loc.end.offset]
    if (this.atrule && !this.rule && isDescriptor(this.atrule.name, name)) return
    if (csstree.lexer.getProperty(name) === null) {
      faults.push({ kind: 'unknown-property', name, start, end: start + name.length })
      return
    }
    // What stands for something else is known only where it is used.
    if (/var\(|env\(|calc\(|color-mix\(|light-dark\(|attr\(/i.test(css.slice(start, end))) return
    if (node.value.type !== 'Value') return
    const { error } = csstree.lexer.matchProperty(name, node.value)
    if (error && error.name === 'SyntaxMatchError') faults.push({ kind: 'unknown-value', name, start, end })
  })
  return faults.sort((a, b) => a.start - b.start).slice(0, mostFaults)
}
