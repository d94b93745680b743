import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
} from 'react'
import { useSearchParams } from 'react-router'
import { type Names, namesOf, spelling } from '#core/naming'
import { ancestorsOf, type Tree, treeOf } from '#core/plan'
import type { Page, Role, Site } from '#core/site'
import { whenBack } from '../session/session'
import { keptWorkOf } from './kept-work'
import { SiteStore } from './site-store'
import type { SiteState } from './site-state'
import { fetchText } from './use-text'
import { WrittenTexts } from './written-texts'

interface SelectionValue {
  readonly selectedId: string
  readonly select: (pageId: string) => void
  /** Chosen beside the selected one; the selected one is always among the chosen. */
  readonly others: ReadonlySet<string>
  readonly choose: (pageId: string, others: ReadonlySet<string>) => void
}

const none: ReadonlySet<string> = new Set()
const StoreContext = createContext<SiteStore | null>(null)
const AccountContext = createContext<string | null>(null)
const TextsContext = createContext<WrittenTexts | null>(null)
// Apart from the store: most of the screen has nothing to do when another page is chosen.
const SelectionContext = createContext<SelectionValue | null>(null)

function required<T>(value: T | null): T {
  if (value === null) throw new Error('Used outside SiteProvider')
  return value
}

/** The open site as this window sees it, with its computed tree and names. */
export interface OpenSite extends SiteState {
  readonly store: SiteStore
  readonly tree: Tree
  readonly names: Names
}

export function useSite(): OpenSite {
  const store = required(useContext(StoreContext))
  const state = useSyncExternalStore(store.subscribe, store.get, store.get)
  return { ...state, store, tree: treeOf(state.site), names: namesOf(state.site) }
}

/** Who works here. */
export const useAccountId = (): string => required(useContext(AccountContext))

/** The texts being written in this window. */
export const useWrittenTexts = (): WrittenTexts => required(useContext(TextsContext))

/** The pages chosen in the register, shared by all views. */
export interface Selection {
  /** The one that views show; the home page when it is gone. */
  readonly selected: Page
  /** All that are chosen, in reading order. */
  readonly chosen: readonly Page[]
  /** The chosen ones without those that stand under another of them. */
  readonly chosenRoots: readonly string[]
  readonly select: (pageId: string) => void
  readonly choose: (pageId: string, others: ReadonlySet<string>) => void
}

export function useSelection(): Selection {
  const { selectedId, others, select, choose } = required(useContext(SelectionContext))
  const { tree, site } = useSite()
  const selected = tree.byId.get(selectedId) ?? tree.byId.get(site.homeId)!
  return useMemo(() => {
    const isChosen = (id: string) => id === selected.id || others.has(id)
    const chosen =
      others.size === 0 ? [selected] : tree.places.map(({ page }) => page).filter((page) => isChosen(page.id))
    const chosenRoots = chosen
      .filter((page) => !ancestorsOf(tree, page).some((above) => isChosen(above.id)))
      .map((page) => page.id)
    return { selected, chosen, chosenRoots, select, choose }
  }, [selected, others, tree, select, choose])
}

interface Props {
  /** Who works here. */
  readonly accountId: string
  readonly site: Site
  readonly revision: number
  readonly titles: { undo: string | null; redo: string | null }
  readonly role: Role
  readonly children: ReactNode
}

/** Keeps one store for as long as the site is open. */
export function SiteProvider({ accountId, site, revision, titles, role, children }: Props) {
  const [params] = useSearchParams()
  const [{ store, texts, kept }] = useState(() => {
    const work = keptWorkOf(accountId, site.id)
    const made = new SiteStore(site, revision, titles, work, role)
    return {
      store: made,
      texts: new WrittenTexts(made, work, (hash) => fetchText(site.id, hash)),
      kept: work,
    }
  })
  const [selectedId, setSelectedId] = useState(params.get('page') ?? site.homeId)
  const [others, setOthers] = useState<ReadonlySet<string>>(none)

  // Names that were made before their letters could be spelled are made again.
  useEffect(() => spelling.whenLate(() => store.nameAgain()), [store])
  useEffect(() => {
    // What a closed or crashed window had not got through goes on here.
    void kept.adopt((name, value) => {
      if (name.startsWith('text ')) texts.adopt(value)
      else store.adopt(name, value)
    })
    const leave = () => {
      texts.flush()
      store.leave()
    }
    const wake = () => store.wake()
    addEventListener('pagehide', leave)
    const unsubscribe = whenBack(wake)
    return () => {
      removeEventListener('pagehide', leave)
      unsubscribe()
      // To another site or the list of sites: the window stays, and sends what it has.
      texts.flush()
    }
  }, [store, texts, kept])
  // The address follows the selection without a navigation: one would call off another that is under
  // way. Not with every key: to write it takes browsers longer than all the rest.
  useEffect(() => {
    const timer = setTimeout(() => {
      const url = new URL(location.href)
      if (url.searchParams.get('page') === selectedId) return
      url.searchParams.set('page', selectedId)
      history.replaceState(history.state, '', url)
    }, 200)
    return () => clearTimeout(timer)
  }, [selectedId])
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (store.wouldLose) event.preventDefault()
    }
    addEventListener('beforeunload', warn)
    return () => removeEventListener('beforeunload', warn)
  }, [store])

  const choose = useCallback((pageId: string, also: ReadonlySet<string>) => {
    setSelectedId(pageId)
    setOthers(also)
  }, [])
  const select = useCallback((pageId: string) => choose(pageId, none), [choose])
  const selection = useMemo(
    () => ({ selectedId, others, select, choose }),
    [selectedId, others, select, choose],
  )
  return (
    <StoreContext value={store}>
      <AccountContext value={accountId}>
        <TextsContext value={texts}>
          <SelectionContext value={selection}>{children}</SelectionContext>
        </TextsContext>
      </AccountContext>
    </StoreContext>
  )
}
