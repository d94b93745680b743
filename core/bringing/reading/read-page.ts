import {
  attributeOf,
  attributePlace,
  attributeValueRange,
  type HtmlNode,
  isElement,
  parseHtml,
  type Range,
  readToPlace,
  type Reference,
  walkHtml,
} from '#core/markup'
import { leadsAbove, type Target } from '#core/links'
import type { BroughtFile } from '../brought'
import type { OldNames } from '../old-names'
import { type OutlineNode, outlineOf, type PageLink, Strings } from './page-outline'
import { isCharset, isDescription, saidBy, textIn, type WrittenTag, writtenTag } from './page-tree'

/** A `meta` that says something of its page: its values, and where they stand. */
export type Meta = ReadonlyMap<string, { readonly value: string; readonly range: Range | null }>

/** Something that a page says of itself, and where. */
export interface Said {
  readonly value: string
  readonly range: Range
  /** Whether it is the address of the page itself. */
  readonly isOwn: boolean
}

/** A page that was brought in, read. Its tree is gone: those of all pages of a site would be twenty times their texts. */
export interface ReadPage {
  readonly id: string
  readonly path: string
  readonly text: string
  readonly outline: readonly OutlineNode[]
  /** Its links to other pages, in order. */
  readonly links: readonly PageLink[]
  readonly metas: readonly Meta[]
  readonly references: readonly Reference[]
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
export type PageAsItWas = Pick<ReadPage, 'id' | 'path' | 'text' | 'references'>

/** All else of a page can go once a site is made of it. */
export const asItWas = ({ id, path, text, references }: ReadPage): PageAsItWas => ({
  id,
  path,
  text,
  references,
})

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

function readPage(
  { id, path, text }: { readonly id: string; readonly path: string; readonly text: string },
  old: Pick<OldNames, 'resolve'>,
  strings: Strings,
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
  walkHtml(root, (node) => {
    if (!isElement(node)) return
    const where = node.sourceCodeLocation
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
    if (node.tagName === 'h1' && heading === null && tried++ < mostTried) heading = textIn(node) || null
  })
  const { top, links } = outlineOf(root, { path, text, goalOf, old, strings })
  const references = readToPlace(text, true, parsed).references.map(
    ({ start, end, href, syntax, inAttribute, holder, ifThere }): Reference => {
      const told = { start, end, href: strings.once(href), syntax, holder: strings.once(holder) }
      return { ...told, ...(inAttribute && { inAttribute }), ...(ifThere && { ifThere }) }
    },
  )
  const forwardsTo = forwardedBy(root, references, (href) => old.resolve(href, path))
  return {
    id,
    path,
    text,
    outline: top,
    links,
    metas,
    said,
    tops,
    references,
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
  const strings = new Strings()
  return files.map(({ path, text = '' }) => {
    onPage?.()
    return readPage({ id: old.idOf.get(path)!, path, text: text.replace(/\r\n?/g, '\n') }, old, strings)
  })
}
