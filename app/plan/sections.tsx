import { useCombobox } from 'downshift'
import { useMemo, useState } from 'react'
import { ancestorsOf, branchOf, lastUnder } from '#core/plan'
import { useSite } from '../document/site-context'
import { count } from '../parts/format'

/** As many as are looked through; of more, a further letter leaves fewer. */
const listedAtMost = 80

interface Section {
  /** Null for the top level. */
  readonly id: string | null
  readonly label: string
  readonly above: string
}

/** Pages to put others under, found by a part of their label. */
export function Sections({ pageIds, onDone }: { pageIds: readonly string[]; onDone: () => void }) {
  const { site, tree, store } = useSite()
  const [typed, setTyped] = useState('')
  const sections = useMemo((): Section[] => {
    const moving = new Set(pageIds.flatMap((id) => branchOf(tree, id)).map((page) => page.id))
    const places = tree.places.filter(({ page }) => page.id !== site.homeId && !moving.has(page.id))
    return [
      { id: null, label: 'the top level', above: '' },
      ...places.map(({ page }) => ({
        id: page.id,
        label: page.label,
        above: ancestorsOf(tree, page).map(({ label }) => label).join(' › '),
      })),
    ] // prettier-ignore
  }, [pageIds, site.homeId, tree])
  const found = useMemo(() => {
    const wanted = typed.trim().toLowerCase()
    return sections.filter(({ label }) => label.toLowerCase().includes(wanted))
  }, [sections, typed])
  const items = found.slice(0, listedAtMost)
  const { getLabelProps, getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox({
    items,
    isOpen: true,
    inputValue: typed,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (item) => item?.label ?? '',
    itemToKey: (item) => item?.id ?? '',
    onInputValueChange: ({ inputValue, type }) => {
      if (type === useCombobox.stateChangeTypes.InputChange) setTyped(inputValue)
    },
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return
      const under = selectedItem.id
      store.change({ kind: 'movePages', pageIds, parentId: under, after: lastUnder(tree, under, pageIds) })
      onDone()
    },
  })
  return (
    <>
      <label className="block" {...getLabelProps()}>
        Put {pageIds.length === 1 ? 'it' : count(pageIds.length, 'page')} under
        <input className="field" autoFocus placeholder="Part of a label" {...getInputProps()} />
      </label>
      <ul
        className="mt-2 max-h-64 overflow-auto"
        {...getMenuProps({ 'aria-label': 'Pages to put it under' })}
      >
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
      <p className="mt-2 text-sm text-quiet" role="status">
        {found.length === 0
          ? 'No label has that in it.'
          : found.length > items.length
            ? `The first ${items.length} of ${count(found.length, 'page')}.`
            : ''}
      </p>
    </>
  )
}
