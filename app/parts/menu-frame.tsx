import { DropdownMenu } from 'radix-ui'
import type { ComponentProps } from 'react'

/** What a menu opens in: above all else, and within the window. */
export function MenuFrame({ className = '', ...rest }: ComponentProps<typeof DropdownMenu.Content>) {
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        collisionPadding={12}
        className={`z-50 max-h-(--radix-dropdown-menu-content-available-height) overflow-auto border border-rule bg-paper py-1 shadow-[0_6px_20px_rgb(0_0_0/0.12)] ${className}`}
        {...rest}
      />
    </DropdownMenu.Portal>
  )
}

/** A line between groups of a menu. */
export const MenuLine = () => <DropdownMenu.Separator className="my-1 border-t border-rule" />
