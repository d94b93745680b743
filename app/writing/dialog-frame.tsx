import { Dialog } from 'radix-ui'
import { type ReactNode, Suspense } from 'react'

/** A dialog of the writing views; what is in it comes when it is first opened. */
export function DialogFrame({
  title,
  open,
  onClose,
  children,
}: {
  title: string
  open: boolean
  onClose: () => void
  children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          // Where it goes on is for whoever closes it: mostly into the text.
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="fixed top-[12vh] left-1/2 z-40 grid max-h-[76vh] w-[min(44rem,94vw)] -translate-x-1/2 grid-rows-[auto_minmax(0,1fr)] border border-rule bg-paper shadow-[0_6px_20px_rgb(0_0_0/0.12)]"
        >
          <Dialog.Title className="px-7 pt-5 pb-3 text-[24px]">{title}</Dialog.Title>
          <Suspense fallback={<p className="px-7 pb-5 text-quiet">Fetching it…</p>}>{children}</Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
