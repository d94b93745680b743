import { mostLevels } from '#core/plan'
import { folderOf, homeOfFolder, homesOf } from './brought'
import { contentsOf, leastFor, listedInMenu, listsIn, menuOf, namesInTexts } from './menus-in'
import type { OldNames } from './old-names'
import type { PageLink } from './reading/page-outline'
import { shownText } from './reading/page-tree'
import type { ReadPage } from './reading/read-page'
import { saidLanguage } from './languages'
import { isOfLanguages } from './translations'

/** A page's place in the plan that was found. */
export interface PlannedPage {
  readonly id: string
  readonly label: string
  /** Null at the top. */
  readonly parentId: string | null
  readonly inMenu: boolean
}

/** Pages with one first heading, or one title, for that to be none of their own: a share of all, or so many. */
const alikeShare = 0.2
const mostAlike = 5

/** What most of some texts are, where so many are; '' otherwise. */
function mostOf(texts: readonly string[], least: number): string {
  const counts = new Map<string, number>()
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  return most && most[1] >= least ? most[0] : ''
}

function groupBy<T>(all: readonly T[], keyOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const one of all) {
    const group = groups.get(keyOf(one))
    if (group) group.push(one)
    else groups.set(keyOf(one), [one])
  }
  return groups
}

/** What a file is called where nothing else says it. */
const labelOfPath = (path: string): string => {
  const name =
    path
      .replace(/\/?[^/]*$/, '')
      .split('/')
      .pop() ?? ''
  const stem = path.slice(folderOf(path).length).replace(/\.\w+$/, '')
  const words = (/^(index|default|home)$/i.test(stem) && name ? name : stem).replace(/[-_+.]+/g, ' ').trim()
  return words === '' ? path : words[0]!.toUpperCase() + words.slice(1)
}

/** Puts at the top what stands below itself, and no page deeper than a plan may go. Linear in the pages. */
function untangle(parents: Map<string, string | null>): void {
  const depths = new Map<string, number>()
  for (const start of parents.keys()) {
    const way: string[] = []
    const onWay = new Set<string>()
    let at: string | null = start
    while (at !== null && !depths.has(at) && !onWay.has(at)) {
      way.push(at)
      onWay.add(at)
      at = parents.get(at) ?? null
    }
    const isCircle = at !== null && onWay.has(at)
    if (isCircle) parents.set(at!, null)
    // Each after the one that it is below.
    const downwards = way.reverse()
    const inTurn = isCircle ? [at!, ...downwards.filter((id) => id !== at)] : downwards
    for (const id of inTurn) {
      const parentId = parents.get(id) ?? null
      const depth = parentId === null ? 0 : depths.get(parentId)! + 1
      if (depth < mostLevels) depths.set(id, depth)
      else {
        // Beside the page that it would be below.
        parents.set(id, parents.get(parentId!) ?? null)
        depths.set(id, depth - 1)
      }
    }
  }
}

/** What a plan is taken from: folders, then menus, then links; or one of them alone. */
export type PlanBy = 'found' | 'folders' | 'menu' | 'links'

/**
 * The plan that pages follow, by all that tells it: what stands in a folder that has a home page is below that page; else a menu in
 * lists within lists says it, or the lists of a page of contents; else a page that stands in no menu is below the first page that
 * leads to it.
 * @param by one of these alone
 * @param titleOf a page's title without what all titles share
 */
export function planOf(
  pages: readonly ReadPage[],
  old: OldNames,
  titleOf: (page: ReadPage) => string | null,
  siteName: string | null,
  by: PlanBy = 'found',
): { home: ReadPage; plan: PlannedPage[] } {
  const paths = pages.map(({ path }) => path)
  const shallowest = [...paths].sort((a, b) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1))
  const homePath = homeOfFolder('', paths) ?? homeOfFolder(folderOf(shallowest[0]!), paths) ?? shallowest[0]!
  const home = pages.find(({ path }) => path === homePath)!
  const byId = new Map(pages.map((page) => [page.id, page]))
  // A way to another language is no part of a plan, and calls no page.
  const ofPlan = (page: ReadPage, link: PageLink) => {
    const to = byId.get(link.id)
    return to !== undefined && !isOfLanguages(page, link, to)
  }
  // What a picture says tells what it shows.
  const called = (link: PageLink) => (link.isPicture ? { ...link, label: '' } : link)
  const links = new Map(
    pages.map((page) => [page.id, [...page.links].filter((one) => ofPlan(page, one)).map(called)]),
  )
  // Where all pages share none, those in one language may: the menu is one after the other.
  const ofAll = menuOf(pages, links, home.id)
  const menus =
    ofAll.entries.length >= 2
      ? [ofAll]
      : [...groupBy(pages, (page) => saidLanguage(page) ?? '').values()].map((some) =>
          menuOf(some, links, home.id),
        )
  const met = new Set<string>()
  const shared = menus.flatMap(({ entries }) => entries).filter(({ id }) => !met.has(id) && met.add(id))
  const contents = contentsOf(links, home.id)
  // A menu is what visitors go by; contents that tell much more than it does are the plan.
  const menu = contents.length > 2 * shared.length ? contents : shared
  const inMenu = new Set(menu.map(({ id }) => id))
  const listed =
    menu === shared
      ? new Set(
          menus.flatMap(({ some, entries }) => [...listedInMenu(some, new Set(entries.map(({ id }) => id)))]),
        )
      : inMenu

  /** Pages in the order in which they are met: the menu, then what each of them leads to. */
  const order = new Map<string, number>()
  const from = new Map<string, string>()
  const queue: string[] = []
  const meet = (id: string, by: string | null) => {
    if (order.has(id)) return
    order.set(id, order.size)
    if (by !== null) from.set(id, by)
    queue.push(id)
  }
  meet(home.id, null)
  for (const { id } of menu) meet(id, null)
  // What is in another language begins with the home page in that.
  const homesBeside = new Set(
    [...home.links].flatMap((link) => (byId.has(link.id) && !ofPlan(home, link) ? [link.id] : [])),
  )
  for (const id of homesBeside) meet(id, null)
  for (let at = 0; at < queue.length; at++) for (const { id } of links.get(queue[at]!)!) meet(id, queue[at]!)
  for (const path of [...paths].sort()) meet(old.idOf.get(path)!, null)

  const parents = new Map<string, string | null>()
  const open: PageLink[] = []
  const menuParent = new Map<string, string>()
  for (const entry of menu) {
    while (open.length > 0 && open[open.length - 1]!.depth >= entry.depth) open.pop()
    const above = open[open.length - 1]
    if (above) menuParent.set(entry.id, above.id)
    // What is in no list has nothing below it, as a link to the same page in another language.
    if (entry.depth > 0) open.push(entry)
  }
  const homes = homesOf(paths)
  const folderParent = (page: ReadPage): string | null => {
    for (let folder = folderOf(page.path); folder !== ''; folder = folderOf(folder.slice(0, -1))) {
      const above = homes.get(folder)
      if (above !== undefined && above !== page.path) return old.idOf.get(above)!
    }
    return null
  }
  const isFolderHome = ({ path }: ReadPage) => path.includes('/') && homes.get(folderOf(path)) === path
  for (const page of pages) {
    const isListed = inMenu.has(page.id)
    const aboveInMenu = menuParent.get(page.id) ?? null
    const leadsTo = isListed ? null : (from.get(page.id) ?? null)
    const parentOf: Readonly<Record<PlanBy, () => string | null>> = {
      // A folder with a home page is a section where it stands: who leads to it first does not make it a part of theirs.
      found: () => folderParent(page) ?? aboveInMenu ?? (isFolderHome(page) ? null : leadsTo),
      folders: () => folderParent(page),
      menu: () => aboveInMenu ?? leadsTo,
      links: () => leadsTo,
    }
    parents.set(page.id, parentOf[by]())
  }
  // What shares one folder and is in another language is below the home page in that.
  const homeIn = new Map<string, string>()
  for (const id of homesBeside) {
    const language = saidLanguage(byId.get(id)!)
    if (language !== null && !homeIn.has(language)) homeIn.set(language, id)
  }
  for (const page of pages) {
    const beginning = homeIn.get(saidLanguage(page) ?? '')
    const isFree = parents.get(page.id) === null && page.id !== beginning && page.id !== home.id
    if (isFree && beginning !== undefined && by !== 'folders') parents.set(page.id, beginning)
  }
  parents.set(home.id, null)
  // Nothing is below the home page.
  for (const [id, parentId] of parents) if (parentId === home.id) parents.set(id, null)
  untangle(parents)
  // A link in a text calls it as the sentence does; what most pages call it is its label. One that is all that leads on from
  // a page says what it is for, “back”, and calls nothing.
  const around = menus.find(({ some }) => some.includes(home))!.some
  const homeLinks = around
    .map(({ id }) => [id, links.get(id)!] as const)
    .filter(([from, entries]) => from !== home.id && entries.some(({ id }) => id !== home.id))
    .map(([, entries]) => entries.filter(({ id, label }) => id === home.id && label !== ''))
    .filter(({ length }) => length > 0)
  const homeLabels = homeLinks.flatMap((entries) => [...new Set(entries.map(({ label }) => label))])
  // The name of the site is what a mark at the top says, and calls the home page only in a menu.
  const others = homeLabels.filter((label) => label !== siteName)
  const least = leastFor(around.length)
  const isInMenu = others.length === 0 && around.filter((page) => listsIn(page, home.id)).length >= least
  const homeLabel = mostOf(isInMenu ? homeLabels : others, least)
  const menuLabels = new Map([...menu.map(({ id, label }) => [id, label] as const), [home.id, homeLabel]])
  // What many pages have for their first heading is what the site is called, what many have for their title is what wrote
  // them; neither is a label.
  const ownOf = (textOf: (page: ReadPage) => string | null) => {
    const counts = new Map<string, number>()
    for (const page of pages) {
      const text = textOf(page)
      if (text) counts.set(text, (counts.get(text) ?? 0) + 1)
    }
    const most = Math.max(2, Math.min(mostAlike, pages.length * alikeShare))
    return (page: ReadPage): string | null => {
      const text = textOf(page)
      return text && (page.id === home.id || counts.get(text)! <= most) ? text : null
    }
  }
  const headingOf = ownOf(({ heading }) => heading)
  const ownTitleOf = ownOf(titleOf)
  /** What a menu calls a page, without the number that it counts it by: a plan counts for itself. */
  const inMenuCalled = (page: ReadPage): string | undefined => {
    const label = menuLabels.get(page.id)
    const counted = /^\d+(?:\.\d+)*\.?\s+(\S.*)$/s.exec(label ?? '')?.[1]
    return counted !== undefined && [headingOf(page), titleOf(page)].includes(counted) ? counted : label
  }
  let inTexts: ReadonlyMap<string, string> | null = null
  /** Of one that says nothing of itself. */
  const calledInTexts = ({ id }: ReadPage) => (inTexts ??= namesInTexts(links)).get(id)
  const labelOf = (page: ReadPage): string =>
    shownText(
      inMenuCalled(page) ||
        headingOf(page) ||
        ownTitleOf(page) ||
        calledInTexts(page) ||
        labelOfPath(page.path),
    ).slice(0, 200)
  /** Whether it stands where a menu would list it: at the top, or below the home page in its language. */
  const isAtTop = (page: ReadPage): boolean => {
    const parentId = parents.get(page.id) ?? null
    return parentId === null || homesBeside.has(parentId)
  }
  const ofMenus = new Set(menus.flatMap(({ some, entries }) => (entries.length > 0 ? some : [])))
  const isMenued = (page: ReadPage) => menu.length > 0 && (menu !== shared || ofMenus.has(page))
  const sorted = [...pages].sort((a, b) => order.get(a.id)! - order.get(b.id)!)
  return {
    home,
    plan: sorted.map((page) => ({
      id: page.id,
      label: labelOf(page),
      parentId: parents.get(page.id) ?? null,
      // Where pages share no menu, none is left out of one.
      inMenu: page === home || !isMenued(page) || listed.has(page.id) || !isAtTop(page),
    })),
  }
}
