import { ArrowDown, ArrowUp } from 'lucide-react'
import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'
import { PopoverFrame } from '../parts/popover-frame'

/** Something that can be among the chosen, and what is said of it beside its name. */
export interface OrderOption {
  readonly value: string
  readonly words: string
  readonly beside?: ReactNode
}

interface Props {
  /** What is chosen, for a screen reader and as the heading of the list. */
  readonly label: string
  /** The words as they stand in the sentence. */
  readonly words: string
  readonly chosen: readonly OrderOption[]
  readonly others: readonly OrderOption[]
  /** Shown where there is nothing to choose from. */
  readonly none: string
  readonly onChange: (values: readonly string[]) => void
  readonly after?: string
}

const iconButton = 'rounded p-1 text-quiet hover:text-ink disabled:opacity-30'

/** Underlined words of a sentence that stand for several things, in an order. */
export function OrderPick({ label, words, chosen, others, none, onChange, after }: Props) {
  const values = chosen.map((one) => one.value)
  const moved = (index: number, by: 1 | -1) => {
    const next = [...values]
    const [one] = next.splice(index, 1)
    next.splice(index + by, 0, one!)
    onChange(next)
  }
  return (
    <Popover.Root>
      <span className="whitespace-nowrap">
        <Popover.Trigger className="pick max-w-72 truncate align-bottom" aria-label={`${label}: ${words}`}>
          {words}
        </Popover.Trigger>
        {after}
      </span>
      <PopoverFrame label={label} sideOffset={4} className="w-96 bg-paper">
        <p className="mb-1 text-sm text-quiet">{label}</p>
        {chosen.length + others.length === 0 && <p className="text-sm">{none}</p>}
        <ol>
          {chosen.map(({ value, words: name, beside }, index) => (
            <li key={value} className="flex h-8 items-center gap-2">
              <label className="flex min-w-0 grow items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-lapis"
                  checked
                  onChange={() => onChange(values.filter((one) => one !== value))}
                />
                <span className="truncate">{name}</span>
              </label>
              {beside}
              <button
                type="button"
                className={iconButton}
                aria-label={`${name} earlier`}
                disabled={index === 0}
                onClick={() => moved(index, -1)}
              >
                <ArrowUp size={15} />
              </button>
              <button
                type="button"
                className={iconButton}
                aria-label={`${name} later`}
                disabled={index === chosen.length - 1}
                onClick={() => moved(index, 1)}
              >
                <ArrowDown size={15} />
              </button>
            </li>
          ))}
        </ol>
        <ul>
          {others.map(({ value, words: name }) => (
            <li key={value} className="flex h-8 items-center">
              <label className="flex min-w-0 items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-lapis"
                  checked={false}
                  onChange={() => onChange([...values, value])}
                />
                <span className="truncate">{name}</span>
              </label>
            </li>
          ))}
        </ul>
      </PopoverFrame>
    </Popover.Root>
  )
}
