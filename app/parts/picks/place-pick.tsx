import { Popover } from 'radix-ui'
import { type ReactNode, Suspense, useState } from 'react'
import type { Place } from './place-search'
import { lazily } from '../fetched'
import { PopoverFrame } from '../popover-frame'

const PlaceSearch = lazily(() => import('./place-search').then((module) => ({ default: module.PlaceSearch })))

/**
 * Chooses a page, or the top level, that is found by its name: for plans that are longer than an arm.
 * @param places worked out once it is open
 */
export function PlacePick({
  title = 'Where to put it',
  label,
  places,
  onChoose,
  children,
}: {
  /** What is chosen, for a screen reader. */
  title?: string
  label: string
  places: () => readonly Place[]
  onChoose: (id: string | null) => void
  /** What opens it. */
  children: ReactNode
}) {
  const [isOpen, setOpen] = useState(false)
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <PopoverFrame label={title} sideOffset={4} className="w-96 bg-paper">
        <Suspense>
          <Search
            label={label}
            places={places}
            onChoose={(id) => {
              setOpen(false)
              onChoose(id)
            }}
          />
        </Suspense>
      </PopoverFrame>
    </Popover.Root>
  )
}

/** Made only while it is open. */
function Search({
  label,
  places,
  onChoose,
}: {
  label: string
  places: () => readonly Place[]
  onChoose: (id: string | null) => void
}) {
  const [offered] = useState(places)
  return <PlaceSearch label={label} places={offered} focused onChoose={onChoose} />
}
