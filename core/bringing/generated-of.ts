import { escapeAttribute, type HtmlElement, type HtmlNode, walkHtml } from '#core/markup'
import type { Site } from '#core/site'
import { type Attributes, contextOf, type Entry, type GeneratedPart, parts } from '#core/template'
import type { OldNames } from './old-names'
import { isElement, type ReadPage, startTagKey, textIn } from './page-tree'

/** An element of pages that lists what a generated part lists, on each of them. */
export interface FoundPart {
  readonly key: string
  /** What stands for it in a template. */
  readonly html: string
}

/** Ways in which parts are tried, the plainest first. */
const tried: readonly { readonly name: string; readonly attributes: Attributes }[] = [
  ...['1', '2', '3', 'all'].flatMap((levels) =>
    [{}, { home: 'first' }].flatMap((home) =>
      ['mark', 'omit'].map((own) => ({ name: 'site-menu', attributes: { levels, own, ...home } })),
    ),
  ),
  { name: 'site-trail', attributes: {} },
  { name: 'site-trail', attributes: { own: 'omit' } },
  ...['1', '2', 'all'].map((levels) => ({ name: 'page-children', attributes: { levels } })),
  { name: 'page-neighbours', attributes: {} },
  ...['1', '2', 'all'].flatMap((levels) =>
    ['mark', 'omit'].map((own) => ({ name: 'site-menu', attributes: { levels, of: 'section', own } })),
  ),
]

/** What an element lists: ids of pages, in order; null where it is no list of pages of the site. */
function listedIn(element: HtmlElement, page: ReadPage, label: string, old: OldNames): string[] | null {
  const ids: string[] = []
  let isList = true
  walkHtml(element, (node) => {
    if (!isElement(node) || !isList) return
    if (node.tagName === 'a') {
      const href = node.attrs.find(({ name }) => name === 'href')?.value
      const target = href === undefined ? null : old.resolve(href.trim(), page.path)
      if (target?.kind === 'page' && target.suffix === '') ids.push(target.id)
      else if (href === undefined && textIn(node) === label) ids.push(page.id)
      else isList = false
    } else if (node.tagName === 'li' && !hasLink(node)) {
      if (textIn(node) === label) ids.push(page.id)
      else isList = false
    } else if (!/^(nav|ul|ol|li|span|strong|em|b|i)$/.test(node.tagName)) isList = false
  })
  return isList && ids.length > 0 ? ids : null
}

function hasLink(element: HtmlElement): boolean {
  let found = false
  walkHtml(element, (node) => void (found ||= isElement(node) && node.tagName === 'a'))
  return found
}

/** Ids of entries as they are listed, with what stands below each. */
function flatIds(entries: readonly Entry[], own: string, omitsOwn: boolean): string[] {
  return entries.flatMap(({ page, below }) => [
    ...(omitsOwn && page.id === own && below.length === 0 ? [] : [page.id]),
    ...flatIds(below, own, omitsOwn),
  ])
}

/** How a part is written in a template: the element's own attributes pass on to it. */
function writtenPart(name: string, attributes: Attributes, element: HtmlElement): string {
  const own = element.attrs.filter((one) => !(one.name === 'class' && one.value === name))
  const written = [...Object.entries(attributes), ...own.map((one) => [one.name, one.value] as const)]
  return `<${name}${written.map(([key, value]) => ` ${key}="${escapeAttribute(value)}"`).join('')}></${name}>`
}

/**
 * Elements that list on every page what a generated part would list there, by their start tags. Strict: one
 * page on which it lists something else, and it is none.
 */
export function findParts(pages: readonly ReadPage[], site: Site, old: OldNames): FoundPart[] {
  const context = contextOf(site)
  const labelOf = new Map(site.pages.map(({ id, label }) => [id, label]))
  const pageOf = new Map(site.pages.map((page) => [page.id, page]))
  /** What elements list, by start tag and page; null where a page has several alike. */
  const lists = new Map<string, Map<string, string[] | null>>()
  const elements = new Map<string, HtmlElement>()
  for (const page of pages) {
    const visit = (node: HtmlNode): void => {
      if (isElement(node) && /^(nav|ul|ol)$/.test(node.tagName) && node.sourceCodeLocation?.endTag) {
        const ids = listedIn(node, page, labelOf.get(page.id)!, old)
        if (ids) {
          const key = startTagKey(node, page.goalOf)
          const byPage = lists.get(key) ?? new Map<string, string[] | null>()
          lists.set(key, byPage)
          byPage.set(page.id, byPage.has(page.id) ? null : ids)
          elements.set(key, node)
          // What is in it belongs to it.
          return
        }
      }
      if ('childNodes' in node) for (const child of node.childNodes) visit(child)
    }
    visit(page.root)
  }
  const found: FoundPart[] = []
  for (const [key, byPage] of lists) {
    const longest = Math.max(...[...byPage.values()].map((ids) => ids?.length ?? 0))
    if (longest < 2 || byPage.size < 2) continue
    const fits = ({ name, attributes }: (typeof tried)[number]): boolean => {
      const part = parts.find((one: GeneratedPart) => one.name === name)!
      const omitsOwn = part.omitsOwn?.(attributes) ?? false
      return pages.every(({ id }) => {
        const page = pageOf.get(id)!
        const expected = flatIds(part.entries(context, attributes, page), id, omitsOwn)
        const has = byPage.has(id) ? byPage.get(id) : []
        return (
          has !== null && has!.length === expected.length && has!.every((one, at) => one === expected[at])
        )
      })
    }
    const way = tried.find(fits)
    if (way) found.push({ key, html: writtenPart(way.name, way.attributes, elements.get(key)!) })
  }
  return found
}
