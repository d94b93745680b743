import { DropdownMenu } from 'radix-ui'
import { MenuFrame } from '../menu-frame'

export interface PickOption<T extends string> {
  readonly value: T
  /** The words as they stand in the sentence. */
  readonly words: string
  /** What it means, where the words are not enough. */
  readonly hint?: string
}

/** An underlined word of a sentence that can be chosen among several. */
export function Pick<T extends string>({
  label,
  value,
  options,
  more,
  onPick,
  open,
  onOpenChange,
  after,
}: {
  /** What is chosen, for a screen reader. */
  label: string
  value: T
  options: readonly PickOption<T>[]
  /** Further ones, for when it takes work to find them. */
  more?: () => readonly PickOption<T>[]
  onPick: (value: T) => void
  /** Set to open it from elsewhere. */
  open?: boolean
  onOpenChange?: (open: boolean) => void
  /** The sign that follows the words, kept on their line. */
  after?: string
}) {
  const current = options.find((option) => option.value === value)
  return (
    <DropdownMenu.Root modal={false} open={open} onOpenChange={onOpenChange}>
      <span className="whitespace-nowrap">
        <DropdownMenu.Trigger className="pick" aria-label={`${label}: ${current?.words ?? value}`}>
          {current?.words ?? value}
        </DropdownMenu.Trigger>
        {after}
      </span>
      <MenuFrame className="min-w-48">
        <DropdownMenu.RadioGroup value={value} onValueChange={(next) => onPick(next as T)}>
          <Options options={options} more={more} />
        </DropdownMenu.RadioGroup>
      </MenuFrame>
    </DropdownMenu.Root>
  )
}

/** Made only while the menu is open. */
function Options<T extends string>({
  options,
  more,
}: {
  options: readonly PickOption<T>[]
  more?: () => readonly PickOption<T>[]
}) {
  return [...options, ...(more?.() ?? [])].map((option) => (
    <DropdownMenu.RadioItem
      key={option.value}
      value={option.value}
      className="grid cursor-pointer grid-cols-[22px_1fr] px-3 py-1.5 outline-none data-[highlighted]:bg-lapis-wash"
    >
      <DropdownMenu.ItemIndicator className="text-verdigris">✓</DropdownMenu.ItemIndicator>
      <span className="col-start-2">
        {option.words}
        {option.hint && <span className="block text-sm text-quiet">{option.hint}</span>}
      </span>
    </DropdownMenu.RadioItem>
  ))
}
