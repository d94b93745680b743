import { useSelection, useSite } from '../document/site-context'
import { duplicate } from '../plan/many-pages'
import { blockOf, type Draft, indented, outdented, shifted } from './rows'

/** Something that can be done with the chosen pages. */
export interface Command {
  readonly words: string
  /** The keys that do the same. */
  readonly keys: string | null
  /** Null where it cannot be done with what is chosen. */
  readonly run: (() => void) | null
}

type CommandName = 'rename' | 'addAfter' | 'addUnder' | 'up' | 'down' | 'in' | 'out' | 'copy' | 'remove'

/** All that can be done, by what it is. */
export type Commands = Readonly<Record<CommandName, Command>>

/** How the menu of a page sets them apart; `plan` stands where pages can be added, moved and removed. */
export const commandGroups = {
  plan: [['rename'], ['addAfter', 'addUnder'], ['up', 'down', 'in', 'out'], ['copy', 'remove']],
  elsewhere: [['rename']],
} as const satisfies Record<string, readonly (readonly CommandName[])[]>

/**
 * What keys, and the menu of a row, do with the chosen pages.
 * @param opens shows what stands below a page, before something is put there
 */
export function useCommands({
  opens,
  draft,
  rename,
}: {
  opens: (pageId: string) => void
  draft: (draft: Draft) => void
  rename: (pageId: string) => void
}): () => Commands {
  const { site, tree, store } = useSite()
  const { selected, chosen, chosenRoots } = useSelection()
  // Asked for when a key comes or a menu opens: a row that is only looked at needs none of it.
  return () => {
    const isOne = chosen.length === 1
    const isHome = selected.id === site.homeId
    /** Several pages change their level together when they stand under one page, one after another. */
    const block = chosenRoots.includes(site.homeId) ? null : blockOf(tree, chosenRoots)
    /** The home page alone is refused with the reason; among others it is passed over. */
    const actedOn = chosenRoots.length > 1 ? chosenRoots.filter((id) => id !== site.homeId) : chosenRoots
    const moves = (to: { parentId: string | null; after: string | null } | null) =>
      to &&
      (() => {
        if (to.parentId) opens(to.parentId)
        store.change({ kind: 'movePages', pageIds: chosenRoots, ...to })
      })
    const place = block && { id: block.first, parentId: block.parentId, after: null }
    const below = tree.childrenOf(selected.id)
    const addAfter = () => {
      const trial = tree.placeOf.get(selected.id)?.trial && selected.parentId === null
      // A new page after a trial page would stand among the trial pages; it goes to the end of the top level instead.
      const top = tree.childrenOf(null).filter((page) => !page.trial)
      draft({
        parentId: selected.parentId,
        after: trial ? (top[top.length - 1]?.id ?? null) : selected.id,
      })
    }
    const addUnder = () => {
      opens(selected.id)
      draft({ parentId: selected.id, after: below[below.length - 1]?.id ?? null })
    }
    const command = (words: string, keys: string | null, run: Command['run']): Command => ({
      words,
      keys,
      run,
    })
    return {
      rename: command('Rename', 'F2', isOne ? () => rename(selected.id) : null),
      addAfter: command('Add a page after it', 'Enter', addAfter),
      addUnder: command('Add a page under it', null, isOne && !isHome ? addUnder : null),
      up: command('Move up', 'Alt+↑', moves(block && shifted(tree, site.homeId, block, -1))),
      down: command('Move down', 'Alt+↓', moves(block && shifted(tree, site.homeId, block, 1))),
      in: command('One level in', 'Tab', moves(place && indented(tree, site.homeId, place))),
      out: command('One level out', 'Shift+Tab', moves(block && outdented(tree, block.parentId))),
      copy: command('Copy, with all below', 'Ctrl+D', () => duplicate(store, tree, actedOn)),
      remove: command('Remove, with all below', 'Delete', () =>
        store.ask({ kind: 'removePages', pageIds: actedOn }),
      ),
    }
  }
}
