import { useEffect, useRef } from 'react'
import { Link, NavLink, useLocation } from 'react-router'
import { Rubric } from '../parts/brand'
import { Button } from '../parts/button'
import { useKeys } from '../parts/keys'
import { useSelection, useSite } from '../document/site-context'
import type { SaveState } from '../document/site-state'
import type { Other } from '../document/use-presence'
import { ShortcutsDialog } from './shortcuts'
import { type View, views, viewTitles } from './views'

/** Which half of the desk a narrow window shows. */
export type Pane = 'register' | 'view'

interface Props {
  /** Matters in a narrow window alone, where one is shown at a time. */
  readonly pane: Pane
  readonly onPane: (pane: Pane) => void
  /** Who else has the site open. */
  readonly others: readonly Other[]
  /** The server is of another program: a view is loaded with that. */
  readonly isRenewed: boolean
  /** Numbers that stand beside a view's name, such as files to send. */
  readonly counts: Partial<Record<View, { number: number; wants: boolean }>>
}

const tab = 'leading-[44px] desk:leading-[60px]'
const activeTab =
  'font-semibold text-ink after:absolute after:inset-x-2 after:bottom-0 after:h-[3px] after:bg-ink desk:after:-bottom-px xl:after:inset-x-3'
/** The view beside the register; where only one of them is shown, it is not the one. */
const activeInRegister =
  'text-quiet desk:font-semibold desk:text-ink desk:after:absolute desk:after:inset-x-2 desk:after:-bottom-px desk:after:h-[3px] desk:after:bg-ink xl:after:inset-x-3'

/** The band across the top: the site's name, the views in working order, what was saved, undo and redo. */
export function Band({ pane, onPane, others, isRenewed, counts }: Props) {
  const { site, save, undo, redo, store } = useSite()
  const { selected } = useSelection()
  const { pathname } = useLocation()
  const keysHere = useKeys()
  const nav = useRef<HTMLElement>(null)
  // In a narrow window not all of them have room: the one that is shown is among those that can be seen.
  useEffect(() => {
    nav.current?.querySelector('[aria-current]')?.scrollIntoView({ inline: 'nearest', block: 'nearest' })
  }, [pathname])
  return (
    <header className="flex flex-wrap items-stretch gap-x-3 border-b border-rule px-5 desk:h-[60px] desk:flex-nowrap xl:gap-x-7">
      <h1 className="min-w-0">
        <Link
          to="/sites"
          reloadDocument={isRenewed}
          className="block max-w-72 truncate text-[25px] leading-[48px] desk:leading-[58px]"
          title={`${site.name}: all sites`}
        >
          <Rubric name={site.name} />
        </Link>
      </h1>
      <nav
        ref={nav}
        aria-label="Views"
        className="order-last flex w-full gap-0.5 overflow-x-auto overflow-y-hidden desk:order-none desk:w-auto desk:overflow-visible xl:gap-1"
      >
        <button
          type="button"
          aria-pressed={pane === 'register'}
          className={`relative mr-2 shrink-0 border-r border-rule pr-3 desk:hidden ${tab} ${pane === 'register' ? activeTab : 'text-quiet'}`}
          onClick={() => onPane('register')}
        >
          Register
        </button>
        {views.map((view) => {
          // What is there is the owner's account of hosts and deliveries: nothing of it is for others.
          if (view === 'upload' && !store.may('deliver')) return null
          const count = counts[view]
          return (
            <NavLink
              key={view}
              reloadDocument={isRenewed}
              to={{ pathname: `/sites/${site.id}/${view}`, search: `?page=${selected.id}` }}
              onClick={() => onPane('view')}
              className={({ isActive, isPending }) =>
                `relative px-2 whitespace-nowrap xl:px-3 ${tab} ${isActive ? `${pane === 'view' ? activeTab : activeInRegister}` : isPending ? 'text-ink' : 'text-quiet hover:text-ink'}`
              }
            >
              {viewTitles[view]}
              {count !== undefined && count.number > 0 && (
                <sup
                  className={`ml-1 text-xs leading-none ${count.wants ? 'font-semibold text-rubric' : 'font-normal'}`}
                >
                  {count.number}
                </sup>
              )}
            </NavLink>
          )
        })}
      </nav>
      <div className="ml-auto flex min-w-0 items-center gap-3 text-sm text-quiet">
        <span role="status" className="whitespace-nowrap">
          <SaveWords save={save} />
        </span>
        <Button
          look="quiet"
          disabled={undo === null}
          onClick={() => void store.undo()}
          title={undo === null ? undefined : `Undo ${undo} (${keysHere('Ctrl+Z')})`}
        >
          Undo
        </Button>
        <Button
          look="quiet"
          disabled={redo === null}
          onClick={() => void store.redo()}
          title={redo === null ? undefined : `Redo ${redo} (${keysHere('Ctrl+Shift+Z')})`}
        >
          Redo
        </Button>
        <Link
          to={`/sites/${site.id}/people`}
          className="max-w-40 truncate hover:text-ink"
          title={
            others.length > 0 ? `Here now: ${namesOf(others).join(', ')}` : 'Who takes part in this site'
          }
        >
          {withWords(namesOf(others))}
        </Link>
        <ShortcutsDialog />
      </div>
    </header>
  )
}

/** Names of those who are here, each once. */
const namesOf = (others: readonly Other[]) => [...new Set(others.map(({ name }) => name))]

const withWords = (names: readonly string[]) =>
  names.length === 0 ? 'People' : names.length === 1 ? `With ${names[0]}` : `With ${names.length} others`

function SaveWords({ save }: { save: SaveState }) {
  switch (save.kind) {
    case 'typing':
      return 'Typing…'
    case 'undecided':
      return <span className="text-rubric">A text here is not saved</span>
    case 'saving':
      return 'Saving…'
    case 'offline':
      return <span className="text-rubric">{save.reason ?? 'Not saved: no connection. Trying again.'}</span>
    case 'saved':
      return save.at === null
        ? 'All saved'
        : `Saved ${new Date(save.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`
  }
}
