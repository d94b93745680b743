import {
  attributeOf,
  type HtmlElement,
  type HtmlNode,
  isElement,
  parseHtml,
  placeId,
  walkHtml,
} from '#core/markup'
import { blocks, boxes, kept, nameOf } from './elements'

/** A link to a place: the address before its `#`, and the place. */
interface PlaceLink {
  readonly element: HtmlElement
  readonly address: string
  readonly place: string
}

/** Elements of text that a place in them begins with. */
const holders = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'pre', 'li', 'dt', 'dd', 'figcaption', 'caption', 'td', 'th']) // prettier-ignore
/** Elements that stand on lines of their own and may begin with a place that was marked in front of them. */
const beginners = new Set([...holders, 'ul', 'ol', 'dl', 'figure', 'table'])
/** Names that programs give: they say nothing. */
const byProgram = /^_|^h\.|^[a-z]*\d{4,}$/i

/** The place that an address leads to; null for none, and for the top of a page (HTML §7.4.6.3). */
function placeOf(element: HtmlElement): PlaceLink | null {
  if (element.tagName !== 'a') return null
  const href = (attributeOf(element, 'href') ?? '').trim()
  const at = href.indexOf('#')
  if (at < 0 || at === href.length - 1 || /^top$/i.test(href.slice(at + 1))) return null
  let place = href.slice(at + 1)
  try {
    place = decodeURIComponent(place)
  } catch {
    // Not encoded: it is named as it stands.
  }
  return { element, address: href.slice(0, at), place }
}

/** The places that an element names: by its `id`, and as an anchor by its `name` (HTML §7.4.6.4). */
const namedBy = (element: HtmlElement): string[] =>
  [attributeOf(element, 'id'), element.tagName === 'a' ? attributeOf(element, 'name') : null].filter(
    (name): name is string => !!name && !/\s/.test(name),
  )

/**
 * The address that what was copied had: programs write links within a page with it in front. It is the one most of whose
 * places are here; one place alone is no proof.
 */
function ownAddress(links: readonly PlaceLink[], places: ReadonlySet<string>): string | null {
  // One that says where it leads within the page shows that it has no address in front.
  if (links.some(({ address, place }) => address === '' && places.has(place))) return null
  const found = new Map<string, Set<string>>()
  for (const { address, place } of links)
    if (address !== '' && places.has(place)) {
      if (!found.has(address)) found.set(address, new Set())
      found.get(address)!.add(place)
    }
  const most = [...found].reduce<[string, number]>(
    (best, [address, { size }]) => (size > best[1] ? [address, size] : best),
    ['', 1],
  )
  return most[1] > 1 ? most[0] : null
}

/**
 * Leaves an `id` only where a link among what was pasted leads to it, on an element that stays; such links lead to it, and
 * those to a place that is neither there nor in the text lead nowhere any more. Once over the tree, which is changed.
 * @param taken the ids of the text that it comes into
 * @returns whether there is any place or link to one
 */
export function keepPlaces(root: HtmlNode, taken: ReadonlySet<string>): boolean {
  const places = new Set<string>()
  const links: PlaceLink[] = []
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    for (const name of namedBy(node)) places.add(name)
    const link = placeOf(node)
    if (link) links.push(link)
  })
  const own = ownAddress(links, places)
  const within = links.filter(({ address }) => address === '' || address === own)
  const wanted = new Set(within.map(({ place }) => place).filter((place) => places.has(place)))
  const carriers = carriersOf(root, wanted)
  walkHtml(root, (node) => {
    if (isElement(node)) setAttribute(node, 'id', null)
  })
  const ids = idsOf(carriers, taken)
  for (const { element, place } of within) {
    const id = ids.get(place) ?? (taken.has(place) ? place : null)
    if (id !== null) setAttribute(element, 'href', `#${id.replaceAll('%', '%25')}`)
    else if (placeOf(element)!.address === '') setAttribute(element, 'href', null)
  }
  return ids.size > 0
}

/**
 * The places of what was written from the tree that are both there and led to.
 * @returns null where each place that is there is led to, and nothing leads anywhere else
 */
export function standingPlaces(written: string, taken: ReadonlySet<string>): ReadonlySet<string> | null {
  const there = new Set<string>()
  const led = new Set<string>()
  walkHtml(parseHtml(written, false).root, (node) => {
    if (!isElement(node)) return
    const link = placeOf(node)
    if (link?.address === '' && !taken.has(link.place)) led.add(link.place)
    const id = attributeOf(node, 'id')
    if (id) there.add(id)
  })
  const standing = new Set([...there].filter((place) => led.has(place)))
  return standing.size === there.size && standing.size === led.size ? null : standing
}

const standsApart = (node: HtmlNode): boolean =>
  isElement(node) && (boxes.has(node.tagName) || blocks.has(node.tagName))

/** The element that stands for each wanted place: the one that names it, else the text it is in, else what follows it. */
function carriersOf(root: HtmlNode, wanted: ReadonlySet<string>): Map<string, HtmlElement> {
  const carriers = new Map<string, HtmlElement>()
  let waiting: string[] = []
  const give = (names: readonly string[], element: HtmlElement) => {
    for (const name of names) if (!carriers.has(name)) carriers.set(name, element)
  }
  const stack: { node: HtmlNode; holder: HtmlElement | null }[] = [{ node: root, holder: null }]
  while (stack.length > 0) {
    const { node, holder: around } = stack.pop()!
    let holder = around
    if (isElement(node)) {
      const tag = nameOf(node)
      if (tag === null) continue
      const names = namedBy(node).filter((name) => wanted.has(name))
      // A box of words alone becomes a paragraph.
      const isText = boxes.has(tag) && !node.childNodes.some(standsApart)
      const stays =
        isText ||
        (Object.hasOwn(kept, tag) && !/^[bh]r$/.test(tag) && (tag !== 'a' || attributeOf(node, 'href')))
      if (isText || beginners.has(tag)) {
        give(waiting, node)
        waiting = []
      }
      if (stays) give(names, node)
      else if (holder) give(names, holder)
      else waiting.push(...names)
      if (isText || holders.has(tag)) holder = node
    }
    if (!('childNodes' in node)) continue
    for (let at = node.childNodes.length - 1; at >= 0; at--)
      stack.push({ node: node.childNodes[at]!, holder })
  }
  return carriers
}

/** The id that each place gets, one an element. */
function idsOf(carriers: ReadonlyMap<string, HtmlElement>, taken: ReadonlySet<string>): Map<string, string> {
  const given = new Map<HtmlElement, string>()
  const used = new Set(taken)
  const ids = new Map<string, string>()
  for (const [place, element] of carriers) {
    let id = given.get(element)
    if (id === undefined) {
      const says = /^h[1-6]$/.test(element.tagName) && byProgram.test(place) ? wordsOf(element) : ''
      id = says !== '' ? placeId(says, used) : place
      for (let number = 2; used.has(id); number++) id = `${place}-${number}`
      used.add(id)
      given.set(element, id)
      setAttribute(element, 'id', id)
    }
    ids.set(place, id)
  }
  return ids
}

function wordsOf(heading: HtmlElement): string {
  let words = ''
  walkHtml(heading, (node) => {
    if (node.nodeName === '#text' && 'value' in node && words.length < 200) words += node.value
  })
  return words.trim()
}

/** Drops what of the places did not stay: links to what is gone, and ids that nothing leads to. */
export function forgetPlaces(root: HtmlNode, gone: (place: string) => boolean): void {
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    const link = placeOf(node)
    if (link?.address === '' && gone(link.place)) setAttribute(node, 'href', null)
    const id = attributeOf(node, 'id')
    if (id && gone(id)) setAttribute(node, 'id', null)
  })
}

function setAttribute(element: HtmlElement, name: string, value: string | null): void {
  const at = element.attrs.findIndex((one) => one.name === name)
  if (at >= 0) element.attrs.splice(at, 1, ...(value === null ? [] : [{ name, value }]))
  else if (value !== null) element.attrs.unshift({ name, value })
}
