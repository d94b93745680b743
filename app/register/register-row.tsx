import { ChevronDown, ChevronRight, MessageSquareText } from 'lucide-react'
import { memo } from 'react'
import { count } from '../parts/format'
import { LabelInput } from './label-input'
import type { RegisterColumn } from './column'
import type { Row } from './rows'

/** What a row may ask of the register; the same object for as long as the register stands. */
export interface RowActions {
  /** A press chooses the page: alone, as the end of a range, or beside those chosen already. */
  readonly press: (pageId: string, how: 'alone' | 'range' | 'beside') => void
  /** The focus came to the row by itself. */
  readonly focus: (pageId: string) => void
  readonly toggle: (pageId: string, open: boolean) => void
  readonly beginRename: (pageId: string) => void
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
      className={`absolute inset-x-0 grid h-8 cursor-default items-center outline-none ${isChosen ? 'bg-lapis-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-lapis' : 'hover:bg-vellum'} focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-lapis`}
      style={{ transform: `translateY(${top}px)`, gridTemplateColumns: tracks }}
    >
      <span role="presentation" className="truncate pr-3 text-right font-mono text-xs text-faint">
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
    </div>
  )
})

/** Thin lines down from each page above. Past a dozen levels they would leave no room for the label. */
export function Guides({ depth }: { depth: number }) {
  return Array.from({ length: Math.min(depth, 12) }, (_, level) => (
    <span key={level} aria-hidden className="ml-[5px] w-[15px] shrink-0 border-l border-rule" />
  ))
}
