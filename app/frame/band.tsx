import { Link, NavLink } from 'react-router'
import { Rubric } from '../parts/brand'
import { Button } from '../parts/button'
import { useSelection, useSite } from '../document/site-context'
import type { SaveState } from '../document/site-store'
import { ShortcutsDialog } from './shortcuts'
import { type View, views, viewTitles } from './views'

interface Props {
  /** Numbers that stand beside a view's name, such as files to send. */
  readonly counts: Partial<Record<View, { number: number; wants: boolean }>>
}

/** The band across the top: the site's name, the views in working order, what was saved, undo and redo. */
export function Band({ counts }: Props) {
  const { site, save, undo, redo, store } = useSite()
  const { selected } = useSelection()
  return (
    <header className="flex items-stretch gap-3 border-b border-rule px-5 xl:gap-7">
      <h1>
        <Link
          to="/sites"
          className="block max-w-72 truncate text-[25px] leading-[58px]"
          title={`${site.name}: all sites`}
        >
          <Rubric name={site.name} />
        </Link>
      </h1>
      <nav aria-label="Views" className="flex gap-0.5 xl:gap-1">
        {views.map((view) => {
          const count = counts[view]
          return (
            <NavLink
              key={view}
              to={{ pathname: `/sites/${site.id}/${view}`, search: `?page=${selected.id}` }}
              className={({ isActive }) =>
                `relative px-2 leading-[60px] whitespace-nowrap xl:px-3 ${isActive ? 'font-semibold text-ink after:absolute after:inset-x-2 after:-bottom-px after:h-[3px] after:bg-ink xl:after:inset-x-3' : 'text-quiet hover:text-ink'}`
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
      <div className="ml-auto flex items-center gap-3 text-sm text-quiet">
        <span role="status" className="whitespace-nowrap">
          <SaveWords save={save} />
        </span>
        <Button
          look="quiet"
          disabled={undo === null}
          onClick={() => void store.undo()}
          title={undo === null ? undefined : `Undo ${undo} (Ctrl+Z)`}
        >
          Undo
        </Button>
        <Button
          look="quiet"
          disabled={redo === null}
          onClick={() => void store.redo()}
          title={redo === null ? undefined : `Redo ${redo} (Ctrl+Shift+Z)`}
        >
          Redo
        </Button>
        <ShortcutsDialog />
      </div>
    </header>
  )
}

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
