import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { Button } from '../parts/button'
import { useKeys } from '../parts/keys'

const groups: readonly { title: string; keys: readonly (readonly [string, string])[] }[] = [
  {
    title: 'Everywhere',
    keys: [
      ['?', 'This list'],
      ['Ctrl+Z', 'Undo'],
      ['Ctrl+Shift+Z or Ctrl+Y', 'Redo'],
      ['F2', 'Rename the chosen page'],
      ['↑ ↓ Home End', 'Choose a page in the register'],
      ['→ ←', 'Open and close a page’s branch'],
    ],
  },
  {
    title: 'In the plan',
    keys: [
      ['Enter', 'Add a page after this one'],
      ['Tab, Shift+Tab', 'One level in, one level out'],
      ['Alt+↑, Alt+↓', 'Move up or down'],
      ['Shift+↑ ↓, Ctrl+A', 'Choose several pages'],
      ['Ctrl+D', 'Copy, with all below'],
      ['Delete', 'Remove, with all below'],
      ['Shift+F10, right click', 'All that can be done with it'],
      ['Drag', 'Move up or down; aside, in or out'],
      ['Ctrl+V', 'Add a pasted list as pages'],
      ['Escape, then Tab', 'Leave the register'],
    ],
  },
  {
    title: 'In the diagram',
    keys: [
      ['↑ ↓ ← →', 'From box to box'],
      ['Enter', 'Fold and unfold what is below'],
      ['+ − 0', 'Larger, smaller, all of it'],
    ],
  },
  {
    title: 'In a text',
    keys: [
      ['Tab, Shift+Tab', 'Indent more, indent less'],
      ['Alt+↑, Alt+↓', 'Move lines up or down'],
      ['Ctrl+B, Ctrl+I', 'Important, said with stress'],
      ['Ctrl+K', 'A link'],
      ['Ctrl+F', 'Find'],
      ['Escape, then Tab', 'Leave the text'],
    ],
  },
]

/** True where typing a letter means the letter. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
  )
}

/** All shortcuts, one key away. */
export function ShortcutsDialog() {
  const [open, setOpen] = useState(false)
  const keysHere = useKeys()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== '?' || isTyping(event.target) || event.ctrlKey || event.metaKey) return
      event.preventDefault()
      setOpen(true)
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [])
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger
        className="rounded border border-rule px-1.5 font-mono text-xs leading-[18px] hover:text-ink"
        aria-label="Keyboard shortcuts"
      >
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 max-h-[94dvh] w-[min(48rem,92vw)] -translate-1/2 overflow-y-auto border border-rule bg-paper p-8"
        >
          <Dialog.Title className="mb-5 text-[26px]">Keyboard</Dialog.Title>
          <div className="grid gap-8 md:grid-cols-2">
            {groups.map((group) => (
              <section key={group.title}>
                <h3 className="mb-2 text-[19px]">{group.title}</h3>
                <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5 text-sm">
                  {group.keys.map(([key, what]) => (
                    <div key={key} className="contents">
                      <dt className="font-mono text-[13px]">{keysHere(key)}</dt>
                      <dd className="text-quiet">{what}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <Dialog.Close asChild>
            <Button className="mt-7">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
