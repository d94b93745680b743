import { Popover } from 'radix-ui'
import { type ReactNode, useState } from 'react'
import { Button } from '../button'
import { PopoverFrame } from '../popover-frame'

interface Props {
  /** What is set, for a screen reader and as the heading of the field. */
  readonly label: string
  /** The words as they stand in the sentence. */
  readonly words: string
  readonly value: string
  readonly hint?: ReactNode
  readonly multiline?: boolean
  /** Values that are known and may be meant. */
  readonly offers?: readonly string[]
  /** Why what was typed cannot be used, or null. */
  readonly check?: (typed: string) => string | null
  /** Whether its words are a command, and no part of the sentence. */
  readonly isCommand?: boolean
  /** What is said on the button. */
  readonly go?: string
  readonly onWrite: (value: string) => void
  readonly open?: boolean
  readonly onOpenChange?: (open: boolean) => void
  /** The sign that follows the words, kept on their line. */
  readonly after?: string
}

/** Underlined words of a sentence that are written, not chosen. */
export function WritePick({
  label,
  words,
  value,
  hint,
  multiline,
  offers = [],
  check,
  isCommand = false,
  go = 'Use it',
  onWrite,
  open,
  onOpenChange,
  after,
}: Props) {
  const [ownOpen, setOwnOpen] = useState(false)
  const [typed, setTyped] = useState(value)
  const isOpen = open ?? ownOpen
  const setOpen = (next: boolean) => {
    if (next) setTyped(value)
    setOwnOpen(next)
    onOpenChange?.(next)
  }
  const problem = check?.(typed) ?? null
  // Where nothing was and nothing has been typed yet, nothing is wrong.
  const told = typed === '' && value === '' ? null : problem
  const field = {
    value: typed,
    spellCheck: false,
    'aria-invalid': told !== null,
    onChange: (event: { target: { value: string } }) => setTyped(event.target.value),
  }
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <span className="whitespace-nowrap">
        <Popover.Trigger
          className={isCommand ? 'link font-sans text-sm' : 'pick'}
          aria-label={isCommand ? undefined : `${label}: ${words}`}
        >
          {words}
        </Popover.Trigger>
        {after}
      </span>
      <PopoverFrame label={label} sideOffset={4} className="w-80 bg-paper">
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            if (problem) return
            onWrite(typed)
            setOpen(false)
          }}
        >
          <label className="block">
            {label}
            {multiline ? (
              <textarea className="area mt-1" rows={6} {...field} />
            ) : (
              <input className="field font-mono text-[14px]" {...field} />
            )}
          </label>
          {offers.map((offer) => (
            <button
              key={offer}
              type="button"
              className="link justify-self-start text-left text-sm break-all"
              onClick={() => setTyped(offer)}
            >
              {offer}
            </button>
          ))}
          {told ? (
            <p role="alert" className="text-sm text-rubric">
              {told}
            </p>
          ) : (
            hint && <p className="text-sm text-quiet">{hint}</p>
          )}
          <div>
            <Button type="submit" className="!py-1" disabled={problem !== null}>
              {go}
            </Button>
          </div>
        </form>
      </PopoverFrame>
    </Popover.Root>
  )
}
