import { useCombobox } from 'downshift'

/** A list that is always open below its field, and whose first entry is taken by Enter; what is typed is its owner's. */
export const useTypedList = <Item>({
  items,
  typed,
  onType,
  wordsOf,
  keyOf,
  onChoose,
}: {
  items: Item[]
  typed: string
  onType: (typed: string) => void
  wordsOf: (item: Item) => string
  keyOf: (item: Item) => string
  onChoose: (item: Item) => void
}) =>
  useCombobox({
    items,
    isOpen: true,
    inputValue: typed,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (item) => (item === null ? '' : wordsOf(item)),
    itemToKey: (item) => (item === null ? '' : keyOf(item)),
    onInputValueChange: ({ inputValue, type }) => {
      if (type === useCombobox.stateChangeTypes.InputChange) onType(inputValue)
    },
    onSelectedItemChange: ({ selectedItem }) => {
      if (selectedItem) onChoose(selectedItem)
    },
  })
