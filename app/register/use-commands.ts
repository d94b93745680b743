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

/** All of them, in groups; those that are not for this view or this person are left out. */
export type Commands = Readonly<Record<keyof typeof keysOf, Command>>

const keysOf = {
  rename: 'F2',
  addAfter: 'Enter',
  addUnder: null,
  up: 'Alt+↑',
  down: 'Alt+↓',
  in: 'Tab',
  out: 'Shift+Tab',
  copy: 'Ctrl+D',
  remove: 'Delete',
} as const

/** How the menu of a page sets them apart; `plan` stands where pages can be added, moved and removed. */
export const commandGroups = {
  plan: [['rename'], ['addAfter', 'addUnder'], ['up', 'down', 'in', 'out'], ['copy', 'remove']],
  elsewhere: [['rename']],
} as const satisfies Record<string, readonly (readonly (keyof Commands)[])[]>

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
    const command = (name: keyof typeof keysOf, words: string, run: (() => void) | null) =>
      [name, { words, keys: keysOf[name], run }] as const
    return Object.fromEntries([
      command('rename', 'Rename', isOne ? () => rename(selected.id) : null),
      command('addAfter', 'Add a page after it', addAfter),
      command('addUnder', 'Add a page under it', isOne && !isHome ? addUnder : null),
      command('up', 'Move up', moves(block && shifted(tree, site.homeId, block, -1))),
      command('down', 'Move down', moves(block && shifted(tree, site.homeId, block, 1))),
      command('in', 'One level in', moves(place && indented(tree, site.homeId, place))),
      command('out', 'One level out', moves(block && outdented(tree, block.parentId))),
      command('copy', 'Copy, with all below', () => duplicate(store, tree, actedOn)),
      command('remove', 'Remove, with all below', () => store.ask({ kind: 'removePages', pageIds: actedOn })),
    ]) as unknown as Commands
  }
}
