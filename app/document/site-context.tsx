import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
} from 'react'
import { useSearchParams } from 'react-router'
import { type Names, namesOf } from '#core/naming'
import { type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { type SiteState, SiteStore } from './site-store'

interface SiteContextValue {
  readonly store: SiteStore
  readonly selectedId: string
  readonly select: (pageId: string) => void
}

const SiteContext = createContext<SiteContextValue | null>(null)

function useSiteContext(): SiteContextValue {
  const value = useContext(SiteContext)
  if (!value) throw new Error('Used outside SiteProvider')
  return value
}

/** The open site as this window sees it, with its computed tree and names. */
export interface OpenSite extends SiteState {
  readonly store: SiteStore
  readonly tree: Tree
  readonly names: Names
}

export function useSite(): OpenSite {
  const { store } = useSiteContext()
  const state = useSyncExternalStore(store.subscribe, store.get, store.get)
  return { ...state, store, tree: treeOf(state.site), names: namesOf(state.site) }
}

/** The page chosen in the register, shared by all views; the home page when the chosen one is gone. */
export function useSelection(): { selected: Page; select: (pageId: string) => void } {
  const { selectedId, select } = useSiteContext()
  const { tree, site } = useSite()
  const selected = tree.byId.get(selectedId) ?? tree.byId.get(site.homeId)!
  return { selected, select }
}

interface Props {
  readonly site: Site
  readonly revision: number
  readonly titles: { undo: string | null; redo: string | null }
  readonly children: ReactNode
}

/** Keeps one store for as long as the site is open. */
export function SiteProvider({ site, revision, titles, children }: Props) {
  const [params] = useSearchParams()
  const [store] = useState(
    () =>
      new SiteStore(site, revision, titles, typeof sessionStorage === 'undefined' ? null : sessionStorage),
  )
  const [selectedId, setSelectedId] = useState(params.get('page') ?? site.homeId)

  useEffect(() => store.resume(), [store])
  // The address follows the selection without a navigation: one would call off another that is under way.
  useEffect(() => {
    const url = new URL(location.href)
    if (url.searchParams.get('page') === selectedId) return
    url.searchParams.set('page', selectedId)
    history.replaceState(history.state, '', url)
  })
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (store.hasWaiting) event.preventDefault()
    }
    addEventListener('beforeunload', warn)
    return () => removeEventListener('beforeunload', warn)
  }, [store])

  const value = useMemo(() => ({ store, selectedId, select: setSelectedId }), [store, selectedId])
  return <SiteContext value={value}>{children}</SiteContext>
}
