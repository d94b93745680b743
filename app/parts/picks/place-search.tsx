import { useMemo, useState } from 'react'
import { count } from '../format'
import { useTypedList } from './use-typed-list'

/** As many as are looked through; of more, a further letter leaves fewer. */
const listedAtMost = 80

/** A page, or the top level, as somebody looks for it. */
export interface Place {
  /** Null for the top level. */
  readonly id: string | null
  readonly label: string
  /** The labels above it. */
  readonly above: string
}

/** Finds a page by a part of its label. */
export function PlaceSearch({
  label,
  places,
  focused = false,
  onChoose,
}: {
  label: string
  places: readonly Place[]
  /** Whether it takes the keys as soon as it is there. */
  focused?: boolean
  onChoose: (id: string | null) => void
}) {
  const [typed, setTyped] = useState('')
  const found = useMemo(() => {
    const wanted = typed.trim().toLowerCase()
    return places.filter((place) => place.label.toLowerCase().includes(wanted))
  }, [places, typed])
  const items = found.slice(0, listedAtMost)
  const { getLabelProps, getInputProps, getMenuProps, getItemProps, highlightedIndex } = useTypedList({
    items,
    typed,
    onType: setTyped,
    wordsOf: ({ label: words }) => words,
    keyOf: ({ id }) => id ?? '',
    onChoose: ({ id }) => onChoose(id),
  })
  return (
    <>
      <label className="block text-sm text-quiet" {...getLabelProps()}>
        {label}
        <input
          className="field text-[15px] text-ink"
          autoFocus={focused}
          placeholder="Part of a label"
          {...getInputProps()}
        />
      </label>
      <ul className="mt-2 max-h-56 overflow-auto" {...getMenuProps({ 'aria-label': label })}>
        {items.map((item, index) => (
          <li
            key={item.id ?? ''}
            className={`cursor-pointer truncate px-2 py-1.5 ${index === highlightedIndex ? 'bg-lapis-wash' : ''}`}
            {...getItemProps({ item, index })}
          >
            {item.label}
            {item.above && <span className="ml-2 text-sm text-quiet">{item.above}</span>}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-quiet" role="status">
        {found.length === 0
          ? 'No label has that in it.'
          : found.length > items.length
            ? `The first ${items.length} of ${count(found.length, 'page')}.`
            : ''}
      </p>
    </>
  )
}
