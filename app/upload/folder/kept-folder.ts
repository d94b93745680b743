import { createStore, get, set } from 'idb-keyval'
import type { RecordedFile } from '#core/delivery'
import { foldersKept } from '../../parts/forget'
import type { Folder } from './folder-files'

/** A folder that the site was put into from this browser, and what was written there. */
export interface KeptFolder {
  readonly folder: Folder
  readonly record: readonly RecordedFile[]
}

/** Opened when it is asked for: it is nothing of the server's. */
const store = () => createStore(foldersKept, 'folders')
/** Nobody else's, also where several sign in at one browser. */
const keyOf = (accountId: string, siteId: string) => `${accountId} ${siteId}`

/** Null where there is none, or the browser keeps nothing. */
export const keptFolder = (accountId: string, siteId: string): Promise<KeptFolder | null> =>
  get<KeptFolder>(keyOf(accountId, siteId), store()).then(
    (kept) => kept ?? null,
    () => null,
  )

/** Without it the next look reads what stands there. */
export const keepFolder = (accountId: string, siteId: string, kept: KeptFolder): Promise<void> =>
  set(keyOf(accountId, siteId), kept, store()).catch(() => {})
