import { type ReactNode, useEffect, useRef } from 'react'
import type { RippleView } from '#server/sites'
import { Button } from '../parts/button'
import { RippleDetails } from '../parts/ripple-details'

/** One way to answer. */
export interface Answer {
  readonly words: string
  readonly look?: 'go' | 'remove' | 'plain'
  readonly onChoose: () => void
}

interface Props {
  readonly name: string
  /** The word it begins with. */
  readonly lead?: string
  readonly children: ReactNode
  readonly ripple: RippleView | null
  /** The first one has the focus; the last one is also Escape. */
  readonly answers: readonly Answer[]
  /** False where typing goes on, and the question waits beside it. */
  readonly takesFocus?: boolean
  /** Where it stands in line with what is above it. */
  readonly inset?: 'px-4' | 'px-7'
}

/** Something asked at the foot of the register, in place, before it is done. */
export function Question({
  name,
  lead = 'Ripple',
  children,
  ripple,
  answers,
  takesFocus = true,
  inset = 'px-4',
}: Props) {
  const first = useRef<HTMLButtonElement>(null)
  useEffect(() => {
    if (!takesFocus) return
    const before = document.activeElement
    first.current?.focus()
    return () => {
      // Back to where the author was; a row that is gone leaves it to the register.
      if (before instanceof HTMLElement || before instanceof SVGElement) before.focus({ preventScroll: true })
    }
  }, [takesFocus])
  return (
    <div
      className={`border-t border-rule bg-vellum py-3 ${inset}`}
      role="group"
      aria-label={name}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') answers[answers.length - 1]!.onChoose()
      }}
    >
      <p className="mb-1">
        <b className="font-semibold">{lead}.</b> {children}
      </p>
      {ripple !== null && <RippleDetails ripple={ripple} />}
      <div className="mt-2 flex flex-wrap gap-x-3 gap-y-2">
        {answers.map(({ words, look, onChoose }, index) => (
          <Button key={words} ref={index === 0 ? first : undefined} look={look} onClick={onChoose}>
            {words}
          </Button>
        ))}
      </div>
    </div>
  )
}
