import type { PageLink } from './reading/page-outline'
import type { ReadPage } from './reading/read-page'

/** Share of the pages that link to a page for it to be in the menu that they share. */
const inMenuShare = 0.6

/** How many of some pages have to link to a page for that to be their menu. */
export const leastFor = (pages: number): number => Math.max(2, (pages - 1) * inMenuShare)

/** The entries of the menu that most pages share, in its order. */
function sharedMenu(links: ReadonlyMap<string, readonly PageLink[]>, homeId: string): PageLink[] {
  const counts = new Map<string, number>()
  for (const [from, entries] of links)
    for (const id of new Set(entries.map((entry) => entry.id).filter((id) => id !== from)))
      counts.set(id, (counts.get(id) ?? 0) + 1)
  const least = leastFor(links.size)
  const isEntry = ({ id }: PageLink) => id !== homeId && (counts.get(id) ?? 0) >= least
  let fullest: readonly PageLink[] = []
  let most = 0
  for (const [from, entries] of links) {
    const here = entries.filter(isEntry)
    const ids = new Set(here.map(({ id }) => id))
    // Where a page leads to itself may be anywhere, and its menu without it.
    const fullness = ids.size - (ids.has(from) ? 0.5 : 0)
    if (fullness > most) [fullest, most] = [here, fullness]
  }
  const seen = new Set<string>()
  const called = namesInMenu(links, counts, least)
  return fullest
    .filter(({ id }) => !seen.has(id) && seen.add(id))
    .map((entry) => ({ ...entry, label: called.get(entry.id) ?? entry.label }))
}

/**
 * The pages of the list that is the menu: of all lists that most pages have, the one with most of what they share. What is
 * linked beside it on every page, as an imprint is at the foot, is no part of the menu.
 * @returns all of the shared where no list has them
 */
export function listedInMenu(pages: readonly ReadPage[], shared: ReadonlySet<string>): ReadonlySet<string> {
  const lists = new Map<string, { pages: number; ids: Set<string> }>()
  for (const { outline } of pages) {
    const here = new Set<string>()
    outline.walk(({ list: menu, key }) => {
      if (!menu) return true
      const list = lists.get(key) ?? { pages: 0, ids: new Set<string>() }
      lists.set(key, list)
      if (!here.has(key)) list.pages++
      here.add(key)
      for (const entry of menu.entries) if ('id' in entry && shared.has(entry.id)) list.ids.add(entry.id)
      return false
    })
  }
  let fullest: ReadonlySet<string> = new Set()
  for (const { pages: having, ids } of lists.values())
    if (having >= leastFor(pages.length) && ids.size > fullest.size) fullest = ids
  return fullest.size >= 2 ? fullest : shared
}

/** Whether a page lists another, beside others. */
export function listsIn({ outline }: ReadPage, id: string): boolean {
  let found = false
  outline.walk(({ list }) => {
    found ||=
      list !== null && list.entries.length > 1 && list.entries.some((one) => 'id' in one && one.id === id)
    return !found
  })
  return found
}

/** What most pages call those that many lead to: on one page alone such an entry may be called "next". */
function namesInMenu(
  links: ReadonlyMap<string, readonly PageLink[]>,
  counts: ReadonlyMap<string, number>,
  least: number,
): Map<string, string> {
  const calls = new Map<string, Map<string, number>>()
  for (const entries of links.values()) {
    const here = new Set<string>()
    for (const { id, label } of entries) {
      if (label === '' || (counts.get(id) ?? 0) < least || here.has(`${id} ${label}`)) continue
      here.add(`${id} ${label}`)
      const those = calls.get(id) ?? new Map<string, number>()
      calls.set(id, those.set(label, (those.get(label) ?? 0) + 1))
    }
  }
  return new Map([...calls].map(([id, those]) => [id, [...those].sort((a, b) => b[1] - a[1])[0]![0]]))
}

/** What pages are called where links lead to them, by most pages that do; what is said of several pages is no name of one. */
export function namesInTexts(links: ReadonlyMap<string, readonly PageLink[]>): Map<string, string> {
  const meant = new Map<string, string | null>()
  for (const { id, label } of [...links.values()].flat()) {
    const known = meant.get(label.toLowerCase())
    meant.set(label.toLowerCase(), known === undefined || known === id ? id : null)
  }
  const names = new Map(
    [...links].map(([from, those]) => [
      from,
      those.filter(
        ({ id, label }) =>
          meant.get(label.toLowerCase()) === id && label.length <= longestName && id !== from,
      ),
    ]),
  )
  return namesInMenu(names, new Map(), 0)
}

/** A page on which lists lead to so many of the others has the contents of the site. */
const contentsShare = 0.5
/** So many are contents of a large site, too, in which there may be pages that forward, or drafts. */
const contentsOfMany = 30
/** What is longer in a page of contents is no name but a sentence. */
const longestName = 80

/**
 * The entries of the page that lists most of the others, as a page of contents does: where pages share no menu it is the
 * plan. Lists in which most lead somewhere else already are texts. None where no page has so many.
 */
export function contentsOf(links: ReadonlyMap<string, readonly PageLink[]>, homeId: string): PageLink[] {
  let fullest: PageLink[] = []
  for (const [from, entries] of links) {
    const listed = new Map<string, PageLink>()
    for (const entry of entries) {
      const { id, label, depth } = entry
      if (depth === 0 || id === homeId || id === from) continue
      const known = listed.get(id)
      // A page of contents calls the one after it "next", too.
      if (!known) listed.set(id, entry)
      else if (label.length > known.label.length && label.length <= longestName)
        listed.set(id, { ...known, label })
    }
    if (listed.size > fullest.length) fullest = [...listed.values()]
  }
  const least = Math.min((links.size - 1) * contentsShare, contentsOfMany + links.size / 10)
  return fullest.length >= Math.max(3, least) ? fullest : []
}

/** Some pages, and the menu that they share. */
export const menuOf = (
  some: readonly ReadPage[],
  links: ReadonlyMap<string, readonly PageLink[]>,
  homeId: string,
) => ({ some, entries: sharedMenu(new Map(some.map(({ id }) => [id, links.get(id)!])), homeId) })
