import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'

interface Props {
  readonly label: string
  readonly align?: 'start' | 'end'
  readonly side?: 'top' | 'bottom'
  /** How far from what opened it: 4 at a word of a sentence, 6 at a button. */
  readonly sideOffset?: 4 | 6
  /** Its width, and what stands how in it. */
  readonly className: string
  readonly children: ReactNode
}

/** What opens at a button: never larger than the window has room for, however far that is enlarged (WCAG 2.2, 1.4.4). */
export function PopoverFrame({
  label,
  align = 'start',
  side = 'bottom',
  sideOffset = 6,
  className,
  children,
}: Props) {
  return (
    <Popover.Portal>
      <Popover.Content
        aria-label={label}
        align={align}
        side={side}
        sideOffset={sideOffset}
        collisionPadding={12}
        className={`z-20 max-h-(--radix-popover-content-available-height) max-w-[calc(100vw-1.5rem)] overflow-y-auto border border-rule p-4 shadow-[0_6px_20px_rgb(0_0_0/0.12)] ${className}`}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  )
}
