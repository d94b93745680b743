import nthCheck from 'nth-check'
import { type HtmlElement, type HtmlNode, isElement } from '#core/markup'

/** Where an element stands among those beside it that count, from either end; from 0. */
interface Place {
  readonly first: number
  readonly last: number
}

/** Places of all elements beside one another, worked out once for each parent: counted anew for each they are quadratic. */
class Places {
  readonly #known = new WeakMap<HtmlNode, ReadonlyMap<HtmlElement, Place>>()

  /** @param groupOf what tells those that count together; null for one that does not count */
  constructor(private readonly groupOf: (element: HtmlElement) => string | null) {}

  of(element: HtmlElement): Place | null {
    const parent = element.parentNode as HtmlNode | null
    if (!parent) return null
    let places = this.#known.get(parent)
    if (!places) this.#known.set(parent, (places = this.#count(parent)))
    return places.get(element) ?? null
  }

  #count(parent: HtmlNode): Map<HtmlElement, Place> {
    const groups = new Map<string, HtmlElement[]>()
    for (const node of 'childNodes' in parent ? (parent.childNodes as HtmlNode[]) : []) {
      const group = isElement(node) ? this.groupOf(node) : null
      if (group === null) continue
      const known = groups.get(group)
      if (known) known.push(node as HtmlElement)
      else groups.set(group, [node as HtmlElement])
    }
    const places = new Map<HtmlElement, Place>()
    for (const elements of groups.values())
      for (const [first, element] of elements.entries())
        places.set(element, { first, last: elements.length - 1 - first })
    return places
  }
}

/**
 * What `:nth-child()` and those like it hold for (Selectors 4 §13.3, §13.4).
 * @param compile makes a test of the selector in `of S`
 */
export function nthPseudos(
  compile: (selector: string) => (element: HtmlElement) => boolean,
): Record<string, (element: HtmlElement, value?: string | null) => boolean> {
  const all = new Places(() => '')
  const byType = new Places(({ tagName }) => tagName)
  const bySelector = new Map<string, Places>()
  const checks = new Map<string, (index: number) => boolean>()
  const checkOf = (formula: string) => {
    const check = checks.get(formula) ?? nthCheck(formula)
    checks.set(formula, check)
    return check
  }
  const matching = (selector: string) => {
    let places = bySelector.get(selector)
    if (!places) {
      const holds = compile(selector)
      bySelector.set(selector, (places = new Places((element) => (holds(element) ? '' : null))))
    }
    return places
  }
  const nth = (places: Places, from: keyof Place) => (element: HtmlElement, value?: string | null) => {
    const of = /^(.+?)\s+of\s+(.+)$/is.exec(value ?? '')
    const place = (of && places === all ? matching(of[2]!) : places).of(element)
    return place !== null && checkOf(of ? of[1]!.trim() : (value ?? ''))(place[from])
  }
  return {
    'nth-child': nth(all, 'first'),
    'nth-last-child': nth(all, 'last'),
    'nth-of-type': nth(byType, 'first'),
    'nth-last-of-type': nth(byType, 'last'),
    'last-of-type': (element) => byType.of(element)?.last === 0,
    'only-of-type': (element) => {
      const place = byType.of(element)
      return place?.first === 0 && place.last === 0
    },
  }
}
