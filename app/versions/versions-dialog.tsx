import { Dialog } from 'radix-ui'
import { Suspense, useState } from 'react'
import type { TextKey } from '../document/written-texts'
import { lazily } from '../parts/fetched'

const Versions = lazily(() => import('./versions').then((module) => ({ default: module.Versions })))

/** Opens the earlier versions of a text. */
export function VersionsDialog({ textKey, name }: { textKey: TextKey; name: string }) {
  const [open, setOpen] = useState(false)
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="link text-sm">Earlier versions</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 grid h-[min(46rem,90vh)] w-[min(72rem,94vw)] -translate-1/2 grid-rows-[auto_minmax(0,1fr)] border border-rule bg-paper"
        >
          <Dialog.Title className="truncate border-b border-rule px-7 pt-5 pb-3 text-[26px]">
            Earlier versions of {name}
          </Dialog.Title>
          <Suspense fallback={<p className="px-7 py-5 text-quiet">Fetching them…</p>}>
            <Versions textKey={textKey} onDone={() => setOpen(false)} />
          </Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
