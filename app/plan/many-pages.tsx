import { branchOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { SectionPick } from './section-pick'

/** What can be done with several chosen pages at once. */
export function ManyPages() {
  const { store, tree, site } = useSite()
  const { chosen, chosenRoots } = useSelection()
  const pages = chosen.filter((page) => page.id !== site.homeId)
  const roots = chosenRoots.filter((id) => id !== site.homeId)
  const allListed = pages.every((page) => page.inMenus)
  return (
    <section className="px-7 pt-6 pb-5" aria-label="The chosen pages">
      <h2 className="mb-3 text-[26px]">{count(chosen.length, 'page')} chosen</h2>
      <div className="flex flex-wrap gap-3">
        <Button
          disabled={pages.length === 0}
          onClick={() =>
            store.change({
              kind: 'setPageFlag',
              pageIds: pages.map((page) => page.id),
              flag: 'inMenus',
              value: !allListed,
            })
          }
        >
          {allListed ? 'Leave out of menus' : 'List in menus'}
        </Button>
        <SectionPick pageIds={roots}>
          <Button disabled={roots.length === 0}>Put under another page…</Button>
        </SectionPick>
        <Button disabled={roots.length === 0} onClick={() => duplicate(store, tree, roots)}>
          Copy, with all below
        </Button>
        <Button
          look="remove"
          disabled={roots.length === 0}
          onClick={() => store.ask({ kind: 'removePages', pageIds: roots })}
        >
          Remove
        </Button>
      </div>
    </section>
  )
}

type Open = ReturnType<typeof useSite>

/** Copies pages with all below them, each after its original. */
export function duplicate(store: Open['store'], tree: Open['tree'], pageIds: readonly string[]): void {
  const newIds = Object.fromEntries(
    pageIds.flatMap((id) => branchOf(tree, id)).map((page) => [page.id, crypto.randomUUID()]),
  )
  store.change({ kind: 'duplicatePages', pageIds, newIds })
}
