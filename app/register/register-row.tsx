import { ChevronDown, ChevronRight, Ellipsis, MessageSquareText } from 'lucide-react'
import { memo } from 'react'
import { count } from '../parts/format'
import { Guides } from './guides'
import { LabelInput } from './label-input'
import type { RegisterColumn } from './column'
import type { MenuPlace } from './row-menu'
import type { Row } from './rows'

/** What a row may ask of the register; the same object for as long as the register stands. */
export interface RowActions {
  /** A press chooses the page: alone, as the end of a range, or beside those chosen already. */
  readonly press: (pageId: string, how: 'alone' | 'range' | 'beside') => void
  /** The focus came to the row by itself. */
  readonly focus: (pageId: string) => void
  readonly toggle: (pageId: string, open: boolean) => void
  readonly beginRename: (pageId: string) => void
  /** Shows all that can be done with the page, or with those it is chosen with; false where that is nothing. */
  readonly openMenu: (pageId: string, place: MenuPlace) => boolean
  /** The label being typed, at each letter; null when the typing has ended. */
  readonly keepLabel: (label: string | null) => void
  /** The new label so far, when the typing pauses. */
  readonly typeLabel: (label: string) => void
  /** The end of the typing: a label, or null when it was called off. */
  readonly endRename: (label: string | null) => void
}

interface Props {
  readonly row: Extract<Row, { kind: 'page' }>
  readonly index: number
  /** Pixels from the top of the list. */
  readonly top: number
  /** The grid's tracks. */
  readonly tracks: string
  readonly columns: readonly RegisterColumn[]
  readonly isHome: boolean
  readonly isSelected: boolean
  readonly isChosen: boolean
  readonly isDragged: boolean
  /** Whether a sign of its menu stands at its end; without it there is only the other button of the mouse. */
  readonly hasMenu: boolean
  /** Notes on the page that are not settled. */
  readonly notes: number
  /** Names of those who have this page open elsewhere; null for nobody. */
  readonly others: string | null
  /** The label as it was when its typing began; null while it is not being typed. */
  readonly renamedFrom: string | null
  readonly actions: RowActions
}

/** One page's row. Remembered as it is: of thousands only those that a key changes are made anew. */
export const RegisterRow = memo(function RegisterRow({
  row,
  index,
  top,
  tracks,
  columns,
  isHome,
  isSelected,
  isChosen,
  isDragged,
  hasMenu,
  notes,
  others,
  renamedFrom,
  actions,
}: Props) {
  const { page, depth, number, trial } = row.place
  return (
    <div
      role="row"
      data-page={page.id}
      aria-rowindex={index + 2}
      aria-level={depth + 1}
      aria-selected={isChosen}
      aria-expanded={row.hasChildren ? row.open : undefined}
      tabIndex={isSelected ? 0 : -1}
      onFocus={(event) => event.target === event.currentTarget && !isChosen && actions.focus(page.id)}
      onMouseDown={(event) => {
        // The focus that follows would choose this page alone.
        if (event.shiftKey || event.ctrlKey || event.metaKey) event.preventDefault()
      }}
      onClick={(event) =>
        actions.press(page.id, event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'beside' : 'alone')
      }
      onDoubleClick={() => actions.beginRename(page.id)}
      onContextMenu={(event) => {
        // Where a label is being typed the browser has a menu for it.
        if (renamedFrom !== null) return
        // Keys open it too, and have no place.
        const { clientX: x, clientY: y } = event
        const isOpen = actions.openMenu(page.id, x > 0 || y > 0 ? { x, y } : below(event.currentTarget))
        if (isOpen) event.preventDefault()
      }}
      className={`group absolute inset-x-0 grid h-8 cursor-default items-center outline-none ${isChosen ? 'bg-lapis-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-lapis' : 'hover:bg-vellum'} ${isDragged ? 'opacity-40' : ''} focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-lapis`}
      style={{ transform: `translateY(${top}px)`, gridTemplateColumns: tracks }}
    >
      <span
        role="presentation"
        data-grip
        className="truncate pr-3 text-right font-mono text-xs text-faint in-data-drags:touch-none"
      >
        {trial ? '–' : number}
      </span>
      <span
        role="gridcell"
        className={`flex min-w-0 items-stretch pr-2 ${isHome ? 'font-semibold' : ''} ${trial ? 'text-quiet italic' : ''}`}
      >
        <Guides depth={depth} />
        {renamedFrom !== null ? (
          <LabelInput
            name={`New label for ${page.label}`}
            value={renamedFrom}
            onPause={actions.typeLabel}
            onTyping={actions.keepLabel}
            onDone={(label) => actions.endRename(label)}
            onCancel={() => actions.endRename(null)}
          />
        ) : (
          <bdi className="truncate leading-8" title={page.label}>
            {page.label}
          </bdi>
        )}
        {row.hasChildren && renamedFrom === null && (
          <button
            type="button"
            tabIndex={-1}
            aria-label={`${row.open ? 'Close' : 'Open'} ${page.label}`}
            className="px-1 text-faint hover:text-ink"
            onClick={(event) => {
              event.stopPropagation()
              actions.toggle(page.id, !row.open)
            }}
          >
            {row.open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
          </button>
        )}
        {notes > 0 && (
          <span
            title={`${count(notes, 'note')} on this page`}
            className="ml-1.5 flex shrink-0 items-center gap-0.5 self-center text-xs text-lapis"
          >
            <MessageSquareText size={13} aria-hidden />
            {notes}
            <span className="sr-only"> {notes === 1 ? 'note' : 'notes'}</span>
          </span>
        )}
        {others !== null && (
          <span
            title={`Here now: ${others}`}
            className="ml-1.5 self-center truncate rounded-full bg-verdigris-wash px-2 text-xs leading-5 text-verdigris"
          >
            <span className="sr-only">Here now: </span>
            {others}
          </span>
        )}
        {row.hidden > 0 && <span className="text-sm leading-8 text-quiet">{row.hidden}</span>}
      </span>
      {columns.map((column) => (
        <span key={column.title} role="gridcell" className="flex min-w-0 items-center pr-2.5">
          {column.cell(row.place)}
        </span>
      ))}
      {hasMenu && (
        <span role="gridcell" className={`h-full ${isSelected ? '' : 'invisible group-hover:visible'}`}>
          <button
            type="button"
            tabIndex={-1}
            aria-label={`What can be done with ${page.label}`}
            className="flex size-full items-center justify-center text-quiet hover:text-ink"
            onClick={(event) => {
              event.stopPropagation()
              actions.openMenu(page.id, below(event.currentTarget))
            }}
            onDoubleClick={(event) => event.stopPropagation()}
          >
            <Ellipsis size={16} />
          </button>
        </span>
      )}
    </div>
  )
})

/** Where a menu opens that belongs to something. */
function below(element: Element): MenuPlace {
  const { left, bottom } = element.getBoundingClientRect()
  return { x: left, y: bottom - 4 }
}
