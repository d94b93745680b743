import type { Resolver } from '../old-names'
import { leadAt, parseHtml, type Range } from '#core/markup'
import type { Page } from '#core/site'
import type { SiteContext } from '#core/template'
import { outlineOf } from '../reading/page-outline'
import { Strings } from '../reading/packed'
import { CommonLook, marksThose } from './common-look'
import { flatIds, maybe, partCalled, type Way, writtenPart } from './generated-of'

/** A menu that a template has by hand, and the part that lists what it does. */
export interface HandMadeMenu extends Range {
  /** The part, as a template has it. */
  readonly html: string
  /** What the plan has there, and the menu has not. */
  readonly missing: readonly Page[]
  /** What the menu calls otherwise than the plan does. */
  readonly renamed: readonly { readonly page: Page; readonly called: string }[]
}

/** Menus that are the same on every page, the plainest first. */
const ways: readonly Way[] = ['1', '2', '3', 'all'].flatMap((levels) =>
  maybe({ home: 'first' }).map((home) => ({ name: 'site-menu', attributes: { levels, ...home } })),
)

/** Fewer entries are no menu of a site, and with less of what the plan has there it was chosen by its author. */
const fewest = 3
const mostOf = 0.6

/** A list or a line of links to pages in a text, in its own order. */
export interface WrittenMenu extends Range {
  readonly ids: readonly string[]
  /** What each is called there. */
  readonly labels: readonly string[]
  readonly look: CommonLook
  /** White space in front of its line. */
  readonly lead: string
}

/**
 * The lists and lines in a template's own source that are links to pages and nothing else, each of them once.
 * @param resolve what a reference of the template leads to
 */
export function writtenMenus(source: string, resolve: Resolver): WrittenMenu[] {
  const reading = {
    id: '',
    path: '',
    text: source,
    goalOf: (href: string) => href,
    old: { resolve },
    strings: new Strings(),
  }
  const { outline } = outlineOf(parseHtml(source, true).root, reading)
  const menus: WrittenMenu[] = []
  outline.walk(({ list, range, tagName }) => {
    // What is in an element that is a line is a line by itself.
    if (!list || !range || (list.look.between !== null && tagName !== null)) return true
    const entries = list.entries.flatMap((entry) => ('id' in entry ? [entry] : []))
    const ids = entries.map(({ id }) => id)
    if (ids.length < fewest || ids.length < list.entries.length || new Set(ids).size < ids.length)
      return false
    // One that is marked on all pages is so by its author's choice.
    if (list.look.between !== null && !marksThose(list.look, [])) return false
    const look = new CommonLook(tagName, list.attributes, list.look.between !== null)
    look.add(list.look)
    menus.push({
      ...range,
      ids,
      labels: entries.map(({ label }) => label),
      look,
      lead: leadAt(source, range.start),
    })
    return false
  })
  return menus
}

/**
 * Those that list what a menu of the plan would, or most of it in the same order: what is added to the plan is not added to
 * them. Linear in what they list.
 */
export function handMadeMenus(written: readonly WrittenMenu[], context: SiteContext): HandMadeMenu[] {
  const home = context.tree.byId.get(context.site.homeId)!
  const made = (written.length > 0 ? ways : []).map((way) => ({
    way,
    expected: flatIds(partCalled(way.name).entries(context, way.attributes, home, false), home.id, false),
  }))
  return written.flatMap(({ start, end, ids, labels, look, lead }) => {
    const has = new Set(ids)
    let best: { readonly way: Way; readonly missing: readonly string[] } | null = null
    for (const { way, expected } of made) {
      if (ids.length < expected.length * mostOf || ids.length > expected.length) continue
      const missing = expected.filter((id) => !has.has(id))
      // All that it has is in the plan's, in its order.
      const isAll = expected.length - missing.length === ids.length
      if (!isAll || !expected.filter((id) => has.has(id)).every((id, at) => id === ids[at])) continue
      if (!best || missing.length < best.missing.length) best = { way, missing }
    }
    if (!best) return []
    const pageOf = (id: string) => context.tree.byId.get(id)!
    return [
      {
        start,
        end,
        html: writtenPart(best.way, look, lead),
        missing: best.missing.map(pageOf),
        renamed: ids.flatMap((id, at) => {
          const [page, called] = [pageOf(id), labels[at]!]
          return called === page.label ? [] : [{ page, called }]
        }),
      },
    ]
  })
}
