import { escapeAttribute, type HtmlAttribute } from '#core/markup'
import type { Site } from '#core/site'
import { type Attributes, contextOf, type Entry, type GeneratedPart, parts } from '#core/template'
import type { ListEntry } from '../reading/outline'
import type { ReadPage } from '../reading/read-page'

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
    [{}, { home: 'first' }].flatMap((home) =>
      ['mark', 'omit'].map((own) => ({
        name: 'site-menu',
        attributes: { levels, of: 'section', own, ...home },
      })),
    ),
  ),
]

/** Ids of pages that a list has, in order; null where it has words beside them that are not the page's own label. */
function listedIn(entries: readonly ListEntry[], pageId: string, label: string): string[] | null {
  const ids = entries.map((entry) => ('id' in entry ? entry.id : entry.says === label ? pageId : null))
  return ids.length > 0 && ids.every((id) => id !== null) ? ids : null
}

/** Ids of entries as they are listed, with what stands below each. */
function flatIds(entries: readonly Entry[], own: string, omitsOwn: boolean): string[] {
  return entries.flatMap(({ page, below }) => [
    ...(omitsOwn && page.id === own && below.length === 0 ? [] : [page.id]),
    ...flatIds(below, own, omitsOwn),
  ])
}

/** How a part is written in a template: the element's own attributes pass on to it. */
function writtenPart(name: string, attributes: Attributes, ofElement: readonly HtmlAttribute[]): string {
  const own = ofElement.filter((one) => !(one.name === 'class' && one.value === name))
  const written = [...Object.entries(attributes), ...own.map((one) => [one.name, one.value] as const)]
  return `<${name}${written.map(([key, value]) => ` ${key}="${escapeAttribute(value)}"`).join('')}></${name}>`
}

/**
 * Elements that list on every page what a generated part would list there, by their start tags. Strict: one
 * page on which it lists something else, and it is none.
 */
export function findParts(pages: readonly ReadPage[], site: Site): FoundPart[] {
  const context = contextOf(site)
  const labelOf = new Map(site.pages.map(({ id, label }) => [id, label]))
  const pageOf = new Map(site.pages.map((page) => [page.id, page]))
  /** What elements list, by start tag and page; null where a page has several alike. */
  const lists = new Map<string, Map<string, string[] | null>>()
  const attributesOf = new Map<string, readonly HtmlAttribute[]>()
  for (const page of pages) {
    page.outline.walk(({ list, key }) => {
      const ids = list && listedIn(list.entries, page.id, labelOf.get(page.id)!)
      if (!ids) return true
      const byPage = lists.get(key) ?? new Map<string, string[] | null>()
      lists.set(key, byPage)
      byPage.set(page.id, byPage.has(page.id) ? null : ids)
      attributesOf.set(key, list.attributes)
      // What is in a list belongs to it.
      return false
    })
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
        const expected = flatIds(part.entries(context, attributes, page, false), id, omitsOwn)
        const has = byPage.has(id) ? byPage.get(id) : []
        return (
          has !== null && has!.length === expected.length && has!.every((one, at) => one === expected[at])
        )
      })
    }
    const way = tried.find(fits)
    if (way) found.push({ key, html: writtenPart(way.name, way.attributes, attributesOf.get(key)!) })
  }
  return found
}
