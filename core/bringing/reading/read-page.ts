import {
  attributeOf,
  attributePlace,
  attributeValueRange,
  type HtmlElement,
  type HtmlNode,
  isElement,
  parseHtml,
  type Range,
  readToPlace,
  type Reference,
  walkHtml,
} from '#core/markup'
import { tagTyped } from '#core/language'
import { leadsAbove, type Target } from '#core/links'
import type { BroughtFile } from '../brought'
import type { OldNames } from '../old-names'
import type { Outline } from './outline'
import { Packed, type Packing, Strings } from './packed'
import { outlineOf, type PageLink } from './page-outline'
import {
  isCharset,
  isDescription,
  saidBy,
  textIn,
  textOfHeading,
  type WrittenTag,
  writtenTag,
} from './page-tree'

/** A `meta` that says something of its page: its values, and where they stand. */
export type Meta = ReadonlyMap<string, { readonly value: string; readonly range: Range | null }>

/** Something that a page says of itself, and where. */
export interface Said {
  readonly value: string
  readonly range: Range
  /** Whether it is the address of the page itself. */
  readonly isOwn: boolean
}

/** A page that another says it is in a language. */
export interface SaidTranslation {
  readonly language: string
  readonly id: string
}

/** A page that was brought in, read. Its tree is gone: those of all pages of a site would be twenty times their texts. */
export interface ReadPage {
  readonly id: string
  readonly path: string
  readonly text: string
  readonly outline: Outline
  /** Its links to other pages, in order. */
  readonly links: Packed<PageLink>
  readonly metas: readonly Meta[]
  /** What it says by `hreflang` that it is in other languages (HTML §4.2.4, §4.6.3). */
  readonly translations: readonly SaidTranslation[]
  /** In order. */
  readonly references: Packed<Reference>
  readonly title: { readonly text: string; readonly range: Range } | null
  readonly description: { readonly text: string; readonly range: Range } | null
  /** What its head says of it for others (`saidBy`); null for what it says twice. */
  readonly said: ReadonlyMap<string, Said | null>
  /** Its `html` and `body`, where they are written. */
  readonly tops: ReadonlyMap<string, WrittenTag>
  /** Whether it says which encoding it is in. */
  readonly charset: boolean
  /** What its first `h1` says. */
  readonly heading: string | null
  /** The page that it does nothing but send visitors on to; null for any that says something. */
  readonly forwardsTo: string | null
}

/** What a page is compared by with what comes out of it. */
export interface PageAsItWas extends Pick<ReadPage, 'id' | 'path'> {
  /** In UTF-16 code units. */
  readonly length: number
  /** Made each time it is asked for, where it was put aside. */
  readonly text: string
  /** In order. */
  readonly references: Iterable<Reference>
}

/**
 * All else of a page can go once a site is made of it.
 * @param aside puts its text where it takes less until it is asked for
 */
export function asItWas(
  { id, path, text, references }: ReadPage,
  aside: (text: string) => () => string = (text) => () => text,
): PageAsItWas {
  const { length } = text
  const textAgain = aside(text)
  return {
    id,
    path,
    length,
    get text() {
      return textAgain()
    },
    references,
  }
}

/** The references that stand in a stretch of a page, the first of them found by halves. */
export function* referencesWithin({ references }: ReadPage, { start, end }: Range): Iterable<Reference> {
  let [low, high] = [0, references.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (references.at(middle).start < start) low = middle + 1
    else high = middle
  }
  for (let index = low; index < references.length; index++) {
    const reference = references.at(index)
    if (reference.start > end) return
    if (reference.end <= end) yield reference
  }
}

/** What pages that are read together have in common: their strings, and how their links and references are written. */
interface Shared {
  readonly strings: Strings
  readonly links: Packing<PageLink>
  readonly references: Packing<Reference>
}

/** All of a reference but where it leads and stands: few kinds of them in a site. */
type ReferenceKind = Omit<Reference, 'start' | 'end' | 'href'>

/** That and nothing more: what comes with a reference may tell its line too, and there would be a kind for each. */
const kindOf = ({
  syntax,
  holder,
  inAttribute,
  inText,
  ifThere,
  fromPage,
}: ReferenceKind): ReferenceKind => ({
  syntax,
  holder,
  ...(inAttribute && { inAttribute }),
  ...(inText && { inText }),
  ...(ifThere && { ifThere }),
  ...(fromPage && { fromPage }),
})

function sharing(strings: Strings): Shared {
  const kinds: ReferenceKind[] = []
  const numbers = new Map<string, number>()
  const numberOf = (kind: ReferenceKind): number => {
    const name = JSON.stringify(kind)
    const known = numbers.get(name)
    if (known !== undefined) return known
    numbers.set(name, kinds.length)
    return kinds.push(kind) - 1
  }
  return {
    strings,
    links: {
      width: 3,
      write: ({ id, label, depth, isPicture }, into, at) => {
        into[at] = strings.numberOf(id)
        into[at + 1] = strings.numberOf(label)
        into[at + 2] = depth * 2 + Number(isPicture)
      },
      read: (from, at) => ({
        id: strings.textOf(from[at]!),
        label: strings.textOf(from[at + 1]!),
        depth: from[at + 2]! >> 1,
        isPicture: (from[at + 2]! & 1) === 1,
      }),
    },
    references: {
      width: 4,
      write: ({ start, end, href, ...rest }, into, at) => {
        into[at] = start
        into[at + 1] = end
        into[at + 2] = strings.numberOf(href)
        into[at + 3] = numberOf(kindOf(rest))
      },
      read: (from, at) => ({
        start: from[at]!,
        end: from[at + 1]!,
        href: strings.textOf(from[at + 2]!),
        ...kinds[from[at + 3]!]!,
      }),
    },
  }
}

/** Words that a page may say that only sends visitors on: that it has moved, and where. */
const mostForwardingWords = 25

/** The page that a page sends visitors on to at once (HTML §4.2.5.3), where it says and shows nothing but that. */
function forwardedBy(
  root: HtmlNode,
  references: readonly Reference[],
  resolve: (href: string) => Target,
): string | null {
  const on = references.find(({ holder, ifThere }) => holder === 'meta content' && !ifThere)
  const target = on && resolve(on.href)
  if (target?.kind !== 'page' || target.suffix !== '') return null
  let words = 0
  let shows = false
  walkHtml(root, (node) => {
    if (
      isElement(node) &&
      /^(img|script|iframe|frame|object|embed|form|video|audio|table|h2)$/.test(node.tagName)
    )
      shows = true
    const holder = 'parentNode' in node ? node.parentNode?.nodeName : undefined
    if (node.nodeName === '#text' && 'value' in node && !/^(title|style)$/.test(holder ?? ''))
      words += node.value.split(/\s+/).filter(Boolean).length
  })
  return shows || words > mostForwardingWords ? null : target.id
}

/** Headings without a word that are passed over: one may stand within another, as deep as a page is long. */
const mostTried = 20

/** Translations that a page may say. */
const mostTranslations = 200

/** What a link says that the page it leads to is in; null where it does not, or leads to something else than the page in that. */
function saidOfLink(element: HtmlElement): string | null {
  if (element.tagName !== 'a' && element.tagName !== 'link') return null
  const language = attributeOf(element, 'hreflang')
  if (language === undefined) return null
  if (element.tagName === 'link' && !/(^|\s)alternate(\s|$)/i.test(attributeOf(element, 'rel') ?? ''))
    return null
  return tagTyped(language)
}

function readPage(
  { id, path, text }: { readonly id: string; readonly path: string; readonly text: string },
  old: Pick<OldNames, 'resolve'>,
  shared: Shared,
): ReadPage {
  const parsed = parseHtml(text, true)
  /** What a reference of it leads to, written alike on every page. */
  const goalOf = (href: string, ifThere = false): string => {
    const target = old.resolve(href.trim(), path)
    if (target.kind === 'missing' && !ifThere && !leadsAbove(href.trim(), path))
      return `/${target.path}${target.suffix}`
    return 'id' in target ? `${target.id}${target.suffix}` : href
  }
  const { root } = parsed
  let title: ReadPage['title'] = null
  let description: ReadPage['description'] = null
  let heading: string | null = null
  let charset = false
  let tried = 0
  const metas: Meta[] = []
  const said = new Map<string, Said | null>()
  const tops = new Map<string, WrittenTag>()
  const isOwn = (href: string): boolean => {
    const target = old.resolve(href.trim(), path)
    return target.kind === 'page' && target.id === id && target.suffix === ''
  }
  const translations: SaidTranslation[] = []
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    const where = node.sourceCodeLocation
    const language = translations.length < mostTranslations ? saidOfLink(node) : null
    if (language !== null) {
      const target = old.resolve((attributeOf(node, 'href') ?? '').trim(), path)
      if (target.kind === 'page' && target.suffix === '') translations.push({ language, id: target.id })
    }
    if (node.tagName === 'title' && where?.startTag && where.endTag && title === null)
      title = {
        text: textIn(node),
        range: { start: where.startTag.endOffset, end: where.endTag.startOffset },
      }
    if (/^(html|body)$/.test(node.tagName) && where?.startTag)
      tops.set(node.tagName, writtenTag(node, text, goalOf))
    charset ||= isCharset(node)
    const says = saidBy(node)
    if (says) {
      const { key, attribute, value } = says
      const at = attributePlace(node, attribute)
      const range = at && attributeValueRange(text, at)
      said.set(key, range && !said.has(key) ? { value, range, isOwn: isOwn(value) } : null)
    }
    if (isDescription(node) && where && description === null)
      description = {
        text: attributeOf(node, 'content') ?? '',
        range: { start: where.startOffset, end: where.endOffset },
      }
    if (where && (isCharset(node) || isDescription(node)))
      metas.push(
        new Map(
          node.attrs.map(({ name, value, at }) => {
            return [name, { value, range: at ? attributeValueRange(text, at) : null }]
          }),
        ),
      )
    if (node.tagName === 'h1' && heading === null && tried++ < mostTried)
      heading = textOfHeading(node) || null
  })
  const { outline, links } = outlineOf(root, { id, path, text, goalOf, old, strings: shared.strings })
  // In order: a tree has what stands in a table, but in no cell of it, before the table (HTML §13.2.6.1).
  const references = [...readToPlace(text, true, parsed).references].sort((a, b) => a.start - b.start)
  const forwardsTo = forwardedBy(root, references, (href) => old.resolve(href, path))
  return {
    id,
    path,
    text,
    outline,
    links: new Packed(links, shared.links),
    metas,
    translations,
    said,
    tops,
    references: new Packed(references, shared.references),
    title,
    description,
    charset,
    heading,
    forwardsTo: forwardsTo === id ? null : forwardsTo,
  }
}

/** Reads pages, each reference of them written by what it leads to. */
export function readPages(
  files: readonly BroughtFile[],
  old: Pick<OldNames, 'resolve' | 'idOf'>,
  onPage?: () => void,
): ReadPage[] {
  const shared = sharing(new Strings())
  return files.map(({ path, text = '' }) => {
    onPage?.()
    return readPage({ id: old.idOf.get(path)!, path, text: text.replace(/\r\n?/g, '\n') }, old, shared)
  })
}
