import type { ListedFile } from '#core/delivery'
import type { ProblemCode } from '#core/problems'
import { type OnClosed, TransferError, type TransferLimits } from './transport'

/** An entry of a folder as a host tells it. */
export interface FolderEntry {
  readonly name: string
  readonly kind: 'file' | 'folder' | 'other'
  readonly sizeBytes: number
  /** Null where the host does not tell. */
  readonly modifiedSeconds: number | null
  /** Rights as POSIX has them; not there where the host does not tell. */
  readonly mode?: number
}

/** Why one folder is passed over, where the rest can be listed. */
const closedBy: ReadonlySet<ProblemCode> = new Set(['not-allowed', 'odd-name'])

/** What is no name of an entry can only lead elsewhere. */
const isName = (name: string) => name !== '.' && name !== '..' && name !== '' && !/[/\0]/.test(name)

export const namesOfFolders = (entries: readonly FolderEntry[]): string[] =>
  entries.flatMap(({ name, kind }) => (kind === 'folder' && isName(name) ? [name] : []))

/**
 * Every file below a folder, some folders listed at once: one by one spends its time waiting. Links are not followed.
 * @param root how the host calls the folder
 * @param readFolder lists one, by its path below `root` with a slash behind it; no further than so many entries
 * @throws TransferError `too-much` beyond the limits
 */
export async function walkFolders(
  root: string,
  limits: Pick<TransferLimits, 'entries' | 'depth'>,
  atOnce: number,
  readFolder: (folder: string, most: number) => Promise<readonly FolderEntry[]>,
  onClosed: OnClosed = () => {},
): Promise<ListedFile[]> {
  const readOpen = async (folder: string, most: number): Promise<readonly FolderEntry[]> => {
    try {
      return await readFolder(folder, most)
    } catch (error) {
      if (folder === '' || !(error instanceof TransferError) || !closedBy.has(error.code)) throw error
      onClosed(folder, error)
      return []
    }
  }
  const endless = (what: string) =>
    new TransferError('too-much', {
      what: `There are ${what} below ${root}. Choose the folder that holds this site alone.`,
    })
  const files: ListedFile[] = []
  let folders = ['']
  let entryCount = 0
  for (let depth = 0; folders.length > 0; depth++) {
    if (depth > limits.depth) throw endless(`folders more than ${limits.depth} levels deep`)
    const next: string[] = []
    for (let at = 0; at < folders.length; at += atOnce) {
      const batch = folders.slice(at, at + atOnce)
      const room = limits.entries - entryCount
      const lists = await Promise.all(batch.map((folder) => readOpen(folder, room)))
      for (const [index, entries] of lists.entries()) {
        entryCount += entries.length
        if (entryCount > limits.entries)
          throw endless(`more than ${limits.entries.toLocaleString('en')} files`)
        for (const { name, kind, sizeBytes, modifiedSeconds } of entries) {
          if (!isName(name)) continue
          const path = batch[index]! + name
          if (kind === 'folder') next.push(`${path}/`)
          else if (kind === 'file') files.push({ path, sizeBytes, modifiedSeconds })
        }
      }
    }
    folders = next
  }
  return files
}
