import type { OutlineNode } from '../reading/outline'
import { framing } from '../reading/page-outline'
import { differingAttributes } from './own-attributes'

/** By what the children of an element are matched from page to page. */
export interface MatchingKeys {
  /** Of each child, page by page. */
  readonly keys: readonly (readonly string[])[]
  /** Keys of elements that are one but for attributes of each page's own, with the names of those. */
  readonly differing: ReadonlyMap<string, readonly string[]>
}

/** Keys that stand once in each list. */
function onceInEach(lists: readonly (readonly (string | null)[])[]): Set<string> {
  const counts = lists.map((keys) => {
    const count = new Map<string, number>()
    for (const key of keys) if (key !== null) count.set(key, (count.get(key) ?? 0) + 1)
    return count
  })
  return new Set(
    [...(counts[0]?.keys() ?? [])].filter((key) => counts.every((count) => count.get(key) === 1)),
  )
}

const idOf = ({ tag }: OutlineNode): string | undefined => tag?.attributes.get('id')?.value

/** Whether an element can be a frame's with attributes of each page's own. */
const canDiffer = (node: OutlineNode): boolean =>
  node.tag !== null && framing.test(node.tagName!) && !/^(?:html|body|table|form)$/.test(node.tagName!)

/** Ways in which an element is one on all pages though its tag is not the same, the surest first. */
const ways: readonly {
  /** @param others elements of its page beside it that nothing is known of yet */
  readonly of: (node: OutlineNode, others: readonly OutlineNode[]) => string | null
  readonly needsShared: boolean
}[] = [
  {
    of: (node) => (idOf(node) === undefined ? null : `<${node.tagName} #${idOf(node)}>`),
    needsShared: false,
  },
  // A page has one (HTML §4.4.16).
  { of: ({ tagName }) => (tagName === 'main' ? '<main>' : null), needsShared: false },
  // What is around all else, with parts of the frame in it.
  {
    of: (node, others) => (others.filter(canDiffer).length === 1 ? `<${node.tagName}>` : null),
    needsShared: true,
  },
]

/** Whether elements hold some of a frame that is the same in all of them. */
const haveShared = (nodes: readonly OutlineNode[]): boolean =>
  onceInEach(
    nodes.map(({ children }) =>
      children.flatMap(({ tagName, key }) => (tagName !== null && framing.test(tagName) ? [key] : [])),
    ),
  ).size > 0

/**
 * Keys that match what is one element on all pages: its start tag as it is written; and of elements that frames are made of and
 * that differ in nothing but plain attributes, such as a class for each page, what they are besides.
 * @param isLoose whether those may differ at all
 */
export function matchingKeys(
  lists: readonly (readonly OutlineNode[])[],
  keyOf: (node: OutlineNode) => string,
  isLoose: boolean,
): MatchingKeys {
  const keys = lists.map((nodes) => nodes.map(keyOf))
  const differing = new Map<string, readonly string[]>()
  if (!isLoose) return { keys, differing }
  const matched = onceInEach(keys)
  const isOpen = (page: number, at: number) => !matched.has(keys[page]![at]!)
  if (!lists[0]!.some((node, at) => isOpen(0, at) && canDiffer(node))) return { keys, differing }
  for (const { of, needsShared } of ways) {
    const loose = lists.map((nodes, page) => {
      const others = nodes.filter((_, at) => isOpen(page, at))
      return nodes.map((node, at) => (isOpen(page, at) && canDiffer(node) ? of(node, others) : null))
    })
    for (const key of onceInEach(loose)) {
      const places = loose.map((each) => each.indexOf(key))
      const nodes = places.map((at, page) => lists[page]![at]!)
      const names = differingAttributes(nodes.map(({ tag }) => tag!))
      if (!names || names.length === 0 || (needsShared && !haveShared(nodes))) continue
      const name = `loose ${key}`
      for (const [page, at] of places.entries()) keys[page]![at] = name
      matched.add(name)
      differing.set(name, names)
    }
  }
  return { keys, differing }
}
