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
