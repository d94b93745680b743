/** The database of the browser in which folders are kept that a site was put into (`upload/folder/kept-folder.ts`). */
export const foldersKept = 'rubricant folders'

/** Under this name the other windows of the browser hear that somebody signs out (HTML, section 12: the storage event). */
const signsOut = 'rubricant signs out'

function tellOtherWindows(): void {
  localStorage.setItem(signsOut, '')
  localStorage.removeItem(signsOut)
}

/** Calls back when whoever works here signs out in another window; until the returned function is called. */
export function whenSignedOutElsewhere(listener: () => void): () => void {
  const hear = ({ key, newValue }: StorageEvent) => {
    if (key === signsOut && newValue !== null) listener()
  }
  addEventListener('storage', hear)
  return () => removeEventListener('storage', hear)
}

/**
 * Takes out of the browser what it keeps for whoever signs out. What they typed and the server does not have yet stays
 * until they come again: it is sent in nobody else's name (`document/kept-work.ts`).
 */
export function forgetWhoSignsOut(): void {
  tellOtherWindows()
  for (const storage of [localStorage, sessionStorage])
    for (const key of Object.keys(storage))
      if (key.startsWith('rubricant ') && !key.startsWith('rubricant work ')) storage.removeItem(key)
  globalThis.indexedDB?.deleteDatabase(foldersKept)
}
