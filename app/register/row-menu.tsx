import { DropdownMenu } from 'radix-ui'
import { Fragment, useRef } from 'react'
import { useKeys } from '../parts/keys'
import { commandGroups, type Commands } from './use-commands'
import { MenuFrame, MenuLine } from '../parts/menu-frame'

/** Where a menu of a row opens, in pixels of the window. */
export interface MenuPlace {
  readonly x: number
  readonly y: number
}

/** All that can be done with the chosen pages, with the keys that do the same: for mice, fingers and those who look for it. */
export default function RowMenu({
  place,
  label,
  commands,
  groups,
  onEnd,
}: {
  place: MenuPlace
  /** What it is about. */
  label: string
  commands: Commands
  groups: keyof typeof commandGroups
  /** Once it is closed: the focus is to go back to the row before what was chosen is done. */
  onEnd: (run: (() => void) | null) => void
}) {
  const keysHere = useKeys()
  const chosen = useRef<(() => void) | null>(null)
  return (
    <DropdownMenu.Root modal={false} open onOpenChange={(open) => !open && onEnd(chosen.current)}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          tabIndex={-1}
          aria-hidden
          className="pointer-events-none fixed size-0 overflow-hidden"
          style={{ left: place.x, top: place.y }}
        >
          {label}
        </button>
      </DropdownMenu.Trigger>
      <MenuFrame onCloseAutoFocus={(event) => event.preventDefault()} className="min-w-60">
        {commandGroups[groups].map((group, index) => (
          <Fragment key={group[0]}>
            {index > 0 && <MenuLine />}
            {group.map((name) => {
              const { words, keys, run } = commands[name]
              return (
                <DropdownMenu.Item
                  key={name}
                  disabled={run === null}
                  onSelect={() => (chosen.current = run)}
                  className={`flex cursor-pointer items-baseline justify-between gap-6 px-4 py-1.5 outline-none data-[disabled]:cursor-default data-[disabled]:text-faint data-[highlighted]:bg-lapis-wash ${name === 'remove' ? 'text-rubric' : ''}`}
                >
                  {words}
                  {keys && (
                    <span aria-hidden className="font-mono text-xs text-quiet">
                      {keysHere(keys)}
                    </span>
                  )}
                </DropdownMenu.Item>
              )
            })}
          </Fragment>
        ))}
      </MenuFrame>
    </DropdownMenu.Root>
  )
}
