import { useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useRef } from 'react'

/** A list of any length in a region that scrolls: every row is there, and only those in view are drawn. */
export function LongList({
  label,
  count,
  rowHeight,
  className,
  children,
}: {
  /** What is listed, for a screen reader. */
  label: string
  count: number
  /** In pixels; rows are of one height and do not wrap. */
  rowHeight: number
  className: string
  /** What a row shows, by its index. */
  children: (index: number) => ReactNode
}) {
  const scroller = useRef<HTMLDivElement>(null)
  const virtualizer = useVirtualizer({
    count,
    estimateSize: () => rowHeight,
    getScrollElement: () => scroller.current,
    overscan: 6,
  })
  return (
    <div
      ref={scroller}
      className={`overflow-auto ${className}`}
      tabIndex={0}
      role="region"
      aria-label={label}
    >
      <ul className="relative" style={{ height: virtualizer.getTotalSize() }}>
        {virtualizer.getVirtualItems().map(({ index, start }) => (
          <li
            key={index}
            className="absolute inset-x-0"
            style={{ height: rowHeight, lineHeight: `${rowHeight}px`, transform: `translateY(${start}px)` }}
            aria-setsize={count}
            aria-posinset={index + 1}
          >
            {children(index)}
          </li>
        ))}
      </ul>
    </div>
  )
}

/** A list of any length: every row where they are few, and of many those in view. */
export function AnyList<T>({
  label,
  rows,
  rowHeight,
  drawnAtMost,
  height,
  children,
}: {
  label: string
  rows: readonly T[]
  rowHeight: number
  /** From so many rows on only those in view are drawn. */
  drawnAtMost: number
  /** How high the region of a long one is, as a class. */
  height: string
  children: (row: T) => ReactNode
}) {
  if (rows.length > drawnAtMost)
    return (
      <LongList
        label={label}
        count={rows.length}
        rowHeight={rowHeight}
        className={`border-y border-rule ${height}`}
      >
        {(index) => children(rows[index]!)}
      </LongList>
    )
  return (
    <ul aria-label={label}>
      {rows.map((row, index) => (
        <li key={index} style={{ minHeight: rowHeight, lineHeight: `${rowHeight}px` }}>
          {children(row)}
        </li>
      ))}
    </ul>
  )
}
