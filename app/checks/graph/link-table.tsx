import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef } from 'react'

/** In pixels; rows do not wrap. */
const rowHeight = 33

interface TablePage {
  readonly id: string
  readonly label: string
  readonly steps: number | null
  readonly isListed: boolean
  readonly to: readonly number[]
}

/** The same for those who read: every page with its way from home, what it leads to and how often it is led to. */
export function LinkTable({
  pages,
  selectedId,
  onSelect,
}: {
  pages: readonly TablePage[]
  selectedId: string
  onSelect: (pageId: string) => void
}) {
  const rows = useMemo(() => {
    const from = new Map<number, number>()
    for (const { to } of pages) for (const place of to) from.set(place, (from.get(place) ?? 0) + 1)
    return pages
      .map((page, place) => ({ ...page, from: from.get(place) ?? 0 }))
      .sort((a, b) => (b.steps ?? Infinity) - (a.steps ?? Infinity))
  }, [pages])
  const scroller = useRef<HTMLDivElement>(null)
  const virtualizer = useVirtualizer({
    count: rows.length,
    estimateSize: () => rowHeight,
    getScrollElement: () => scroller.current,
    overscan: 10,
  })
  // Only rows in view are drawn; others are as much empty room.
  const drawn = virtualizer.getVirtualItems()
  const above = drawn[0]?.start ?? 0
  const below = virtualizer.getTotalSize() - (drawn.at(-1)?.end ?? 0)
  return (
    <div
      ref={scroller}
      className="min-h-0 overflow-auto px-7 pb-6"
      tabIndex={0}
      role="region"
      aria-label="Pages and their links"
    >
      <table className="w-full table-fixed border-collapse text-left" aria-rowcount={rows.length + 1}>
        <thead className="sticky top-0 bg-paper text-sm text-quiet">
          <tr>
            {['Page', 'From home', 'In menus', 'Leads to', 'Led to by'].map((head, index) => (
              <th
                key={head}
                scope="col"
                className={`border-b border-rule py-1.5 font-normal ${index > 2 ? 'w-24 text-right' : index > 0 ? 'w-32' : ''}`}
              >
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr aria-hidden style={{ height: above }} />
          {drawn.map(({ index }) => {
            const { id, label, steps, isListed, to, from } = rows[index]!
            return (
              <tr
                key={id}
                aria-rowindex={index + 2}
                className={`border-b border-rule ${id === selectedId ? 'bg-lapis-wash' : ''}`}
                style={{ height: rowHeight }}
              >
                <th scope="row" className="truncate font-normal">
                  <button type="button" className="link" onClick={() => onSelect(id)}>
                    {label}
                  </button>
                </th>
                <td className={steps === null ? 'font-semibold text-rubric' : ''}>
                  {steps === null
                    ? 'no way'
                    : steps === 0
                      ? 'home'
                      : steps === 1
                        ? '1 click'
                        : `${steps} clicks`}
                </td>
                <td className="text-quiet">{isListed ? 'listed' : '–'}</td>
                <td className="text-right tabular-nums">{to.length}</td>
                <td className="text-right tabular-nums">{from}</td>
              </tr>
            )
          })}
          <tr aria-hidden style={{ height: below }} />
        </tbody>
      </table>
    </div>
  )
}
