import { escapeAttribute, escapeText } from '#core/markup'
import { type Attributes, type GeneratedPart, lookAttributes, marks } from './parts'

/** How a part is written, whatever it lists: HTML that is the same on every page. */
export interface Look {
  /** The element around it; '' where it has none of its own. */
  readonly opening: string
  readonly closing: string
  /** What stands between the links of a line; null of a list. */
  readonly between: string | null
  /** The element that marks the page's own entry, and its attributes. */
  readonly mark: string
  readonly ownAttributes: string
  readonly linkAttributes: string
  /** Of a link to a page above, where the part marks those. */
  readonly aboveAttributes: string
  /** Of the list itself, of those in it, of the page's own, and of one of a page above. */
  readonly listAttributes: string
  readonly itemAttributes: string
  readonly ownItemAttributes: string
  readonly aboveItemAttributes: string
}

/** What stands between two links of a line: a text, in which `<br>` begins another line. */
const lineBetween = (text: string): string =>
  text
    .split(/<br\s*\/?>/i)
    .map(escapeText)
    .join('<br>')

const classed = (name: string | undefined): string => (name ? ` class="${escapeAttribute(name)}"` : '')

/** Elements that a part can stand in, and as what a list stands by itself. */
export const elementsOf = (isLine: boolean): readonly string[] =>
  isLine ? ['nav', 'p', 'div'] : ['nav', 'div', 'list']

/** How a part is written where its element says so. */
export function lookOf(part: GeneratedPart, attributes: Attributes): Look {
  const own = new Set([...part.attributes, ...lookAttributes].map(({ name }) => name))
  const passed = Object.entries(attributes)
    .filter(([name]) => !own.has(name))
    .map(([name, value]) => ` ${name}="${escapeAttribute(value)}"`)
    .join('')
  const { between, mark: said = 'a' } = attributes
  const isLine = between !== undefined
  const as = elementsOf(isLine).find((one) => one === attributes.as)
  const isBare = as === 'list' || (isLine && as === undefined)
  const tag = as ?? 'nav'
  // One that its author says the element of has what that is to have.
  const named = as !== undefined || 'class' in attributes ? '' : classed(part.name)
  const mark = marks.includes(said) ? said : 'a'
  const linkClass = attributes['link-class']
  const itemClass = attributes['item-class']
  return {
    opening: isBare ? '' : `<${tag}${named}${passed}>`,
    closing: isBare ? '' : `</${tag}>`,
    between: isLine ? lineBetween(between) : null,
    mark,
    ownAttributes: classed(attributes['own-class'] ?? (mark === 'a' ? linkClass : undefined)),
    linkAttributes: classed(linkClass),
    aboveAttributes: classed(attributes['above-class'] ?? linkClass),
    listAttributes: as === 'list' ? passed : classed(attributes['list-class']),
    itemAttributes: classed(itemClass),
    ownItemAttributes: classed(attributes['own-item-class'] ?? itemClass),
    aboveItemAttributes: classed(attributes['above-item-class'] ?? itemClass),
  }
}
