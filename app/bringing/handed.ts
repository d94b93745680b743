import type { FolderFile } from '../parts/files-of-drop'

let handed: readonly FolderFile[] | null = null

/** Keeps files for the view where pages are brought in, on the way there: they are asked for once. */
export const handToBringing = (files: readonly FolderFile[]): void => void (handed = files)

/** Files that were handed over, for whoever asks first; null where none were. */
export function takeHanded(): readonly FolderFile[] | null {
  const files = handed
  handed = null
  return files
}
