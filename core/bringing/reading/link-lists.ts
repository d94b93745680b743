import { attributeOf, type HtmlElement, type HtmlNode, isElement, walkHtml } from '#core/markup'
import type { ListEntry, WrittenNode } from './outline'
import { childrenOf, textIn, withoutPlace } from './page-tree'

/**
 * What a list has, once it is known to be of nothing but links and words: what all of one with lists in it says is no label.
 * @param pageOf the page that a link leads to, or null
 * @param ownId the page that it is on
 * @param within elements with a link, and with a list, in them
 */
export function linkListOf(
  element: HtmlElement,
  pageOf: (link: HtmlElement) => string | null,
  ownId: string,
  within: { readonly linking: ReadonlySet<HtmlNode>; readonly holding: ReadonlySet<HtmlNode> },
): NonNullable<WrittenNode['list']> {
  const entries: ListEntry[] = []
  const classes = {
    linkClass: new Classes(),
    ownClass: new Classes(),
    itemClass: new Classes(),
    ownItemClass: new Classes(),
  }
  const lists: HtmlElement[] = []
  let mark: string | null = null
  walkHtml(element, (node) => {
    if (!isElement(node)) return
    if (/^[uo]l$/.test(node.tagName)) lists.push(node)
    else if (node.tagName === 'a') {
      const id = pageOf(node)
      const isOwn = id === null || id === ownId
      const label = textIn(node)
      entries.push(id === null ? { says: label } : { id, label })
      classes[isOwn ? 'ownClass' : 'linkClass'].add(node)
      const item = node.parentNode
      if (item && isElement(item) && item.tagName === 'li')
        classes[isOwn ? 'ownItemClass' : 'itemClass'].add(item)
    } else if (node.tagName === 'li' && !within.linking.has(node)) {
      entries.push({ says: within.holding.has(node) ? '' : textIn(node) })
      classes.ownItemClass.add(node)
      // One around others says nothing, and each of them would be read as often as it is deep.
      if (within.holding.has(node)) return
      const [only, another] = childrenOf(node).filter(isElement)
      if (!only || another || textIn(only) !== textIn(node)) return
      mark = only.tagName
      classes.ownClass.add(only)
    }
  })
  // A list within its element; where it is the element, its attributes are those of the part.
  const [outer] = lists
  const listClass = outer && outer !== element ? (attributeOf(outer, 'class') ?? '') : null
  return {
    entries,
    attributes: element.attrs.map(withoutPlace),
    look: {
      between: null,
      mark,
      listClass,
      linkClass: classes.linkClass.common,
      ownClass: classes.ownClass.common,
      itemClass: classes.itemClass.common,
      ownItemClass: classes.ownItemClass.common,
    },
  }
}

/** The `class` that elements have in common. */
class Classes {
  readonly #all = new Set<string>()

  add(element: HtmlElement): void {
    this.#all.add(attributeOf(element, 'class') ?? '')
  }

  /** Null where they have none in common, or there are none of them. */
  get common(): string | null {
    const [only, another] = this.#all
    return another === undefined ? (only ?? null) : null
  }
}
