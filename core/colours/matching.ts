import { compile } from 'css-select'
import * as csstree from 'css-tree'
import { attributeOf, type HtmlElement, type HtmlNode, isElement } from '#core/markup'
import { nthPseudos } from './nth'
import type { Declared, StyleRule } from './sheet-rules'

const childrenOf = (node: HtmlNode): HtmlNode[] =>
  'childNodes' in node ? (node.childNodes as HtmlNode[]) : []
const parentOf = (node: HtmlNode): HtmlNode | null =>
  'parentNode' in node ? (node.parentNode as HtmlNode | null) : null

/** The parser's tree, as what matches selectors asks for it. */
const adapter = {
  isTag: isElement,
  getAttributeValue: attributeOf,
  getChildren: childrenOf,
  getName: (element: HtmlElement) => element.tagName,
  getParent: parentOf,
  getSiblings: (node: HtmlNode) => {
    const parent = parentOf(node)
    return parent ? childrenOf(parent) : [node]
  },
  // Asked of text alone, to tell what is empty.
  getText: (node: HtmlNode) => ('value' in node ? node.value : ''),
  hasAttrib: (element: HtmlElement, name: string) => element.attrs.some((one) => one.name === name),
  removeSubsets: (nodes: HtmlNode[]) => nodes,
}

const never = () => false
/** States that come and go: a page is looked at as it is when nobody has touched it. */
const states = Object.fromEntries(
  ['hover', 'active', 'visited', 'focus', 'focus-visible', 'focus-within', 'target', 'target-within', 'user-invalid', 'user-valid', 'popover-open', 'modal', 'fullscreen', 'playing', 'autofill'].map((name) => [name, never]),
) // prettier-ignore

/** How much a selector counts (Selectors 4 §17), in one number; as many of one kind as a byte holds. */
export function specificityOf(selector: csstree.CssNode): number {
  let sum = 0
  const most = (list: csstree.List<csstree.CssNode>) => {
    let highest = 0
    list.forEach((one) => (highest = Math.max(highest, specificityOf(one))))
    return highest
  }
  if (selector.type === 'SelectorList') return most(selector.children)
  if (selector.type !== 'Selector') return 0
  selector.children.forEach((part) => {
    if (part.type === 'IdSelector') sum += 0x10000
    else if (part.type === 'ClassSelector' || part.type === 'AttributeSelector') sum += 0x100
    else if (part.type === 'TypeSelector') sum += part.name.endsWith('*') ? 0 : 1
    else if (part.type === 'PseudoElementSelector') sum += 1
    else if (part.type === 'PseudoClassSelector') {
      const name = part.name.toLowerCase()
      if (/^(is|not|has|matches|-webkit-any|-moz-any)$/.test(name))
        sum += part.children ? most(part.children) : 0
      else if (name !== 'where') sum += 0x100
    }
  })
  return sum
}

/** What an element has to have for a selector to hold, so that most need not be tried. */
type Need = `#${string}` | `.${string}` | string

function needOf(selector: csstree.Selector): Need {
  let need = '*'
  selector.children.forEach((part) => {
    // The last of what stands together is the element itself.
    if (part.type === 'Combinator') need = '*'
    else if (part.type === 'IdSelector') need = `#${part.name.toLowerCase()}`
    else if (part.type === 'ClassSelector' && !need.startsWith('#')) need = `.${part.name.toLowerCase()}`
    else if (part.type === 'TypeSelector' && need === '*' && !part.name.includes('|'))
      need = part.name.toLowerCase()
  })
  return need
}

/** A rule of which one selector is known to hold. */
export interface Matched {
  readonly declared: readonly Declared[]
  readonly specificity: number
  readonly layer: number
  /** Its place among all rules. */
  readonly order: number
}

interface Tried extends Matched {
  readonly holds: (element: HtmlElement) => boolean
}

/** Finds the rules that hold for an element. */
export class RuleIndex {
  readonly #byNeed = new Map<Need, Tried[]>()

  /** @param quirksMode whether classes and ids are matched in any case (Quirks Mode §3.1) */
  constructor(rules: readonly StyleRule[], quirksMode: boolean) {
    const compiled = (selector: string): Tried['holds'] =>
      compile<HtmlNode, HtmlElement>(selector, { adapter, quirksMode, pseudos })
    const pseudos = { ...states, ...nthPseudos(compiled) }
    for (const [order, { selector, declared, layer }] of rules.entries()) {
      let tree: csstree.CssNode
      let holds: Tried['holds']
      try {
        tree = csstree.parse(selector, { context: 'selector' })
        // What styles a piece of an element, or is unknown, throws or holds for none.
        if (csstree.find(tree, ({ type }) => type === 'PseudoElementSelector')) continue
        holds = compiled(selector)
      } catch {
        continue
      }
      if (tree.type !== 'Selector') continue
      const need = needOf(tree)
      const tried = { declared, specificity: specificityOf(tree), layer: layer.rank, order, holds }
      const known = this.#byNeed.get(need)
      if (known) known.push(tried)
      else this.#byNeed.set(need, [tried])
    }
  }

  rulesOf(element: HtmlElement): Matched[] {
    const found: Matched[] = []
    const tryAll = (need: Need) => {
      for (const rule of this.#byNeed.get(need) ?? []) if (rule.holds(element)) found.push(rule)
    }
    tryAll('*')
    tryAll(element.tagName)
    for (const { name, value } of element.attrs) {
      if (name === 'id') tryAll(`#${value.toLowerCase()}`)
      if (name === 'class')
        for (const one of new Set(value.toLowerCase().split(/\s+/))) if (one) tryAll(`.${one}`)
    }
    return found
  }
}
