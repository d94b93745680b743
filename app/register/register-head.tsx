import type { RegisterColumn } from './column'

/** What the columns of the register are called. */
export function RegisterHead({
  columns,
  tracks,
  hasMenu,
}: {
  columns: readonly RegisterColumn[]
  /** The grid's tracks. */
  tracks: string
  /** Whether rows end with the sign of their menu. */
  hasMenu: boolean
}) {
  return (
    <div role="rowgroup">
      <div
        role="row"
        aria-rowindex={1}
        className="grid h-9 items-center border-b border-rule text-sm text-quiet"
        style={{ gridTemplateColumns: tracks }}
      >
        <span role="presentation" />
        <span role="columnheader">Page</span>
        {columns.map((column) => (
          <span key={column.title} role="columnheader" className="truncate">
            {column.title}
          </span>
        ))}
        {hasMenu && (
          <span role="columnheader" className="sr-only">
            Menu
          </span>
        )}
      </div>
    </div>
  )
}
