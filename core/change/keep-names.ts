import { clashKey, isOwnPath, type Names, namesOf, numberedName, type PageName } from '#core/naming'
import { languagesOf, type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'

/**
 * Holds the names of pages still that the change was not about: when the older of two pages that
 * wanted one name is removed, the younger keeps the name it has been known by.
 */
export function keepUnrelatedNames(before: Site, after: Site): Site {
  // A name held still frees the one its page would have had, and a third page would take that: so
  // until nothing moves. Each round holds at least one more name.
  for (;;) {
    const next = keepOnce(before, after)
    if (next === after) return after
    after = next
  }
}

function keepOnce(before: Site, after: Site): Site {
  if (before.pages === after.pages && before.language === after.language) return after
  const were = namesOf(before).pages
  const treeBefore = treeOf(before)
  const treeAfter = treeOf(after)
  const become = namesOf(after).pages
  const keep = new Map<string, string>()
  for (const { page, trial } of treeAfter.places) {
    const was = were.get(page.id)
    const old = treeBefore.byId.get(page.id)
    if (!was || !old || trial || page.id === after.homeId || page.id === before.homeId) continue
    if (become.get(page.id)!.stem === was.stem) continue
    // The page itself was renamed, moved or put in or out of trial: its new name is what was asked for.
    if (old.label !== page.label || old.parentId !== page.parentId || old.ownName !== page.ownName) continue
    const section = page.parentId === null ? undefined : treeAfter.byId.get(page.parentId)
    if (section && treeBefore.byId.get(section.id)?.dated !== section.dated) continue
    if (old.date !== page.date) continue
    // Spelled otherwise in another language, but for one that is out in the world.
    const isRespelled = languagesOf(before).of(old) !== languagesOf(after).of(page)
    if (isRespelled && page.addresses.length === 0) continue
    if (old.trial !== page.trial || treeBefore.placeOf.get(page.id)?.trial) continue
    if (page.keptName === null) keep.set(page.id, was.stem)
    else {
      // A path of its own comes before all else, but for a page that stood there already.
      const other = newcomerAt(was, treeBefore, treeAfter, become)
      if (other) keep.set(other.page.id, numberBeside(other, become.get(page.id)!, after))
    }
  }
  if (keep.size === 0) return after
  return {
    ...after,
    pages: after.pages.map((page) => {
      const keptName = keep.get(page.id)
      return keptName === undefined ? page : { ...page, keptName }
    }),
  }
}

/** A name where it is one, as the strictest host tells it from others: a page and a folder beside it may not have the same. */
const placeOf = ({ container, stem }: Pick<PageName, 'container' | 'stem'>): string =>
  clashKey(container + stem)

/** The page with a path of its own that has come to have the name of another: it is new, or was a trial page. */
function newcomerAt(was: PageName, before: Tree, after: Tree, become: Names['pages']) {
  for (const { page, trial } of after.places) {
    const name = become.get(page.id)!
    if (trial || !isOwnPath(page.ownName) || placeOf(name) !== placeOf(was)) continue
    if (!before.byId.has(page.id) || before.placeOf.get(page.id)!.trial) return { page, name }
  }
  return null
}

/**
 * The next name with a number that nothing has beside a page.
 * @param displaced who goes back from where it stands for now
 */
function numberBeside(
  { page, name: { stem, container } }: { readonly page: Page; readonly name: PageName },
  displaced: PageName,
  site: Site,
): string {
  const taken = new Set([...namesOf(site).pages.values()].map(placeOf))
  taken.delete(placeOf(displaced))
  const wanted = page.keptName ?? stem
  for (let number = 2; ; number++) {
    const name = numberedName(wanted, number, site.scheme)
    if (!taken.has(placeOf({ container, stem: name }))) return name
  }
}
