import { DropdownMenu } from 'radix-ui'
import { Fragment, useRef } from 'react'
import type { LineElement, WordElement } from '#core/texts'
import { useKeys } from '../parts/keys'
import { MenuFrame, MenuLine } from '../parts/menu-frame'

export type WrittenElement = LineElement | WordElement

interface Entry {
  readonly name: WrittenElement
  readonly words: string
  readonly keys?: string
}

const groups: readonly (readonly Entry[])[] = [
  [
    { name: 'strong', words: 'Important', keys: 'Ctrl+B' },
    { name: 'em', words: 'Said with stress', keys: 'Ctrl+I' },
    { name: 'code', words: 'Letter for letter, as in a program' },
  ],
  [
    { name: 'p', words: 'Paragraph' },
    { name: 'h2', words: 'Heading' },
    { name: 'h3', words: 'Heading of a part below that' },
    { name: 'h4', words: 'Heading of a part below both' },
  ],
  [
    { name: 'ul', words: 'List' },
    { name: 'ol', words: 'List in an order that counts' },
    { name: 'blockquote', words: 'Quotation' },
  ],
]

/** The elements that texts are made of, by what they say: each is put around what is chosen, or taken off it. */
export default function ElementsMenu({ onChoose }: { onChoose: (name: WrittenElement) => void }) {
  const keysHere = useKeys()
  const isChosen = useRef(false)
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="link text-sm">Elements</DropdownMenu.Trigger>
      <MenuFrame
        align="end"
        onCloseAutoFocus={(event) => {
          // The text has the focus then; called off, the menu's own word.
          if (isChosen.current) event.preventDefault()
          isChosen.current = false
        }}
      >
        {groups.map((entries, index) => (
          <Fragment key={entries[0]!.name}>
            {index > 0 && <MenuLine />}
            {entries.map(({ name, words, keys }) => (
              <DropdownMenu.Item
                key={name}
                onSelect={() => {
                  isChosen.current = true
                  onChoose(name)
                }}
                className="grid cursor-pointer grid-cols-[6.5rem_1fr_auto] items-baseline gap-x-4 px-4 py-1.5 outline-none data-[highlighted]:bg-lapis-wash"
              >
                <span className="font-mono text-[13px] text-lapis">{`<${name}>`}</span>
                <span>{words}</span>
                <span aria-hidden className="font-mono text-xs text-quiet">
                  {keys && keysHere(keys)}
                </span>
              </DropdownMenu.Item>
            ))}
          </Fragment>
        ))}
      </MenuFrame>
    </DropdownMenu.Root>
  )
}
