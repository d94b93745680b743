import { Popover } from 'radix-ui'
import { lazy, type ReactNode, Suspense, useState } from 'react'

const Sections = lazy(() => import('./sections').then((module) => ({ default: module.Sections })))

/**
 * Puts pages under another one that is found by its name: for plans that are longer than an arm. Pages
 * that stand under the ones to move are not offered.
 * @param pageIds branches to move, none of which stands under another
 */
export function SectionPick({ pageIds, children }: { pageIds: readonly string[]; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false)
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Where to put it"
          align="start"
          sideOffset={4}
          collisionPadding={12}
          className="z-20 w-96 border border-rule bg-paper p-4 shadow-[0_6px_20px_rgb(0_0_0/0.12)]"
        >
          <Suspense>
            <Sections pageIds={pageIds} onDone={() => setOpen(false)} />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
