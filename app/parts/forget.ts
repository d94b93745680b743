/** The database of the browser in which folders are kept that a site was put into (`upload/folder/kept-folder.ts`). */
export const foldersKept = 'rubricant folders'

/**
 * Takes out of the browser what it keeps for whoever signs out. What they typed and the server does not have yet stays
 * until they come again: it is sent in nobody else's name (`document/kept-work.ts`).
 */
export function forgetWhoSignsOut(): void {
  for (const storage of [localStorage, sessionStorage])
    for (const key of Object.keys(storage))
      if (key.startsWith('rubricant ') && !key.startsWith('rubricant work ')) storage.removeItem(key)
  globalThis.indexedDB?.deleteDatabase(foldersKept)
}
