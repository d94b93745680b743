import { escapeAttribute, escapeText } from '#core/markup'

/** An element on its way to HTML. */
export interface Node {
  readonly tag: string
  readonly attributes: Record<string, string>
  children: (Node | string)[]
}

export const made = (
  tag: string,
  attributes: Record<string, string> = {},
  children: (Node | string)[] = [],
): Node => ({ tag, attributes, children })

const isNode = (one: Node | string | undefined): one is Node => typeof one === 'object'
const isList = (one: Node | string | undefined): one is Node => isNode(one) && /^[uo]l$/.test(one.tag)
const isHeading = (one: Node | string | undefined) => isNode(one) && /^h[1-6]$/.test(one.tag)

/**
 * Blocks as HTML has them. A word processor writes an entry of the second level as a list in an entry that says nothing, a
 * numbered heading as an entry of a list, what goes on after a paragraph as a list of its own, and each line of source and each
 * paragraph of a quotation by itself.
 */
export function tidied(node: Node): Node {
  const children: (Node | string)[] = []
  const add = (child: Node | string) => {
    const before = children[children.length - 1]
    const goesOn = isNode(child) && isNode(before) ? goneOn(before, child) : null
    if (goesOn) children[children.length - 1] = goesOn
    else children.push(child)
  }
  for (const one of node.children) {
    const child = isNode(one) ? tidied(one) : one
    if (!isList(child)) add(child)
    else if (child.children.some((entry) => isNode(entry) && isHeading(entry.children[0])))
      for (const entry of child.children)
        if (isNode(entry)) entry.children.forEach(add)
        else add(entry)
    else add(made(child.tag, child.attributes, withEntriesBefore(child.children)))
  }
  return made(node.tag, node.attributes, node.tag === 'li' ? withoutOnlyParagraph(children) : children)
}

/** What goes on with what stands before it, as one; null where each stands by itself. */
function goneOn(before: Node, child: Node): Node | null {
  const { tag, children } = child
  if (isList(before) && isList(child) && (before.tag === tag || children.every(isBare)))
    return joined(before, child)
  if (before.tag !== tag) return null
  if (tag === 'pre') return made(tag, {}, [...before.children, '\n', ...children])
  return tag === 'blockquote' ? made(tag, {}, [...before.children, ...children]) : null
}

/** The words of an entry that has nothing but lists below them stand by themselves. */
function withoutOnlyParagraph(children: (Node | string)[]): (Node | string)[] {
  const [first, ...others] = children
  return isNode(first) && first.tag === 'p' && others.every(isList)
    ? [...first.children, ...others]
    : children
}

const joined = (first: Node, second: Node): Node =>
  made(first.tag, first.attributes, withEntriesBefore([...first.children, ...second.children]))

/** Whether an entry has nothing but lists in it. */
const isBare = (entry: Node | string): entry is Node =>
  isNode(entry) && entry.children.length > 0 && entry.children.every(isList)

/** Entries of nothing but lists go on with the entry before them. */
function withEntriesBefore(entries: readonly (Node | string)[]): (Node | string)[] {
  const kept: (Node | string)[] = []
  for (const entry of entries) {
    const before = kept[kept.length - 1]
    if (!isBare(entry) || !isNode(before)) {
      kept.push(entry)
      continue
    }
    const children = [...before.children]
    for (const list of entry.children as readonly Node[]) {
      const last = children[children.length - 1]
      if (isList(last) && last.tag === list.tag) children[children.length - 1] = joined(last, list)
      else children.push(list)
    }
    kept[kept.length - 1] = made(before.tag, before.attributes, children)
  }
  return kept
}

const empty = new Set(['img', 'br'])

/** The HTML of what is in an element. */
export const written = (node: Node): string =>
  node.children
    .map((child) => {
      if (typeof child === 'string') return escapeText(child)
      const attributes = Object.entries(child.attributes).map(
        ([name, value]) => ` ${name}="${escapeAttribute(value)}"`,
      )
      const start = `<${child.tag}${attributes.join('')}>`
      return empty.has(child.tag) ? start : `${start}${written(child)}</${child.tag}>`
    })
    .join('')
