import { useCombobox } from 'downshift'
import { useMemo, useState } from 'react'
import { ancestorsOf } from '#core/plan'
import type { Page } from '#core/site'
import { useSite } from '../../document/site-context'

const listedAtMost = 60

/** Finds a page by a part of its label. */
export function PageSearch({
  label,
  without,
  onChoose,
}: {
  label: string
  /** A page that is not offered. */
  without: string
  onChoose: (page: Page) => void
}) {
  const { tree } = useSite()
  const [typed, setTyped] = useState('')
  const found = useMemo(() => {
    const wanted = typed.trim().toLowerCase()
    return tree.places
      .map(({ page }) => page)
      .filter((page) => page.id !== without && page.label.toLowerCase().includes(wanted))
  }, [tree, typed, without])
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
      if (selectedItem) onChoose(selectedItem)
    },
  })
  return (
    <>
      <label className="block text-sm text-quiet" {...getLabelProps()}>
        {label}
        <input className="field text-[15px] text-ink" placeholder="Part of a label" {...getInputProps()} />
      </label>
      <ul className="mt-1 max-h-40 overflow-auto" {...getMenuProps({ 'aria-label': label })}>
        {items.map((item, index) => (
          <li
            key={item.id}
            className={`cursor-pointer truncate px-2 py-1 ${index === highlightedIndex ? 'bg-lapis-wash' : ''}`}
            {...getItemProps({ item, index })}
          >
            {item.label}
            <span className="ml-2 text-sm text-quiet">
              {ancestorsOf(tree, item)
                .map((above) => above.label)
                .join(' › ')}
            </span>
          </li>
        ))}
        {items.length === 0 && <li className="px-2 py-1 text-sm text-quiet">No label has that in it.</li>}
      </ul>
    </>
  )
}
