import { type RefObject, Suspense, useState, useSyncExternalStore } from 'react'
import { folderPicker } from './folder-files'
import { lazily } from '../../parts/fetched'

// Nobody who does not open it fetches it.
const PutInFolder = lazily(() =>
  import('./put-in-folder').then((module) => ({ default: module.PutInFolder })),
)

const never = () => () => {}

/**
 * The way into a folder of this computer; null in a browser that has none.
 * @param opener has the focus again once it is closed
 */
export function useIntoFolder(opener: RefObject<HTMLButtonElement | null>) {
  const [isOpen, setOpen] = useState(false)
  // The server does not know what browser it draws for.
  const isThere = useSyncExternalStore(
    never,
    () => folderPicker() !== null,
    () => false,
  )
  if (!isThere) return null
  return {
    open: () => setOpen(true),
    dialog: isOpen && (
      <Suspense>
        <PutInFolder
          onClose={() => {
            setOpen(false)
            opener.current?.focus()
          }}
        />
      </Suspense>
    ),
  }
}
