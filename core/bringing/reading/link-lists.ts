import { attributeOf, type HtmlElement, type HtmlNode, isElement, walkHtml } from '#core/markup'
import { type ListEntry, notPatterned, type WrittenNode } from './outline'
import { ClassesOfEntries } from './entry-classes'
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
    ownClass: new Classes(),
    ownItemClass: new Classes(),
  }
  const [links, items] = [new ClassesOfEntries(), new ClassesOfEntries()]
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
      if (isOwn) classes.ownClass.add(node)
      else links.add(id, attributeOf(node, 'class') ?? '')
      const item = node.parentNode
      if (item && isElement(item) && item.tagName === 'li') {
        if (isOwn) classes.ownItemClass.add(item)
        else items.add(id, attributeOf(item, 'class') ?? '')
      }
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
  const [link, item] = [links.told, items.told]
  // The same entries, whichever of the two says so.
  const isOne =
    link.others.length === 0 || item.others.length === 0 || String(link.others) === String(item.others)
  return {
    entries,
    attributes: element.attrs.map(withoutPlace),
    look: {
      ...notPatterned,
      between: null,
      mark,
      listClass,
      linkClass: isOne ? link.usual : links.common,
      ownClass: classes.ownClass.common,
      itemClass: isOne ? item.usual : items.common,
      ownItemClass: classes.ownItemClass.common,
      aboveClass: isOne ? (link.other ?? link.usual) : null,
      aboveItemClass: isOne ? (item.other ?? item.usual) : null,
      others: !isOne ? [] : link.others.length > 0 ? link.others : item.others,
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
