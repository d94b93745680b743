import { isOfSystem } from '#core/site'

/** A file of a folder that was chosen or dropped, and where it stands in it. */
export interface FolderFile {
  readonly path: string
  readonly file: File
}

/** Whether a folder is among what was dropped. */
export const holdsFolder = (data: DataTransfer): boolean =>
  [...data.items].some((item) => item.webkitGetAsEntry()?.isDirectory)

/** Files of what was dropped, folders with all that is in them. */
export async function filesOfDrop(data: DataTransfer): Promise<FolderFile[]> {
  const entries = [...data.items].flatMap((item) => item.webkitGetAsEntry() ?? [])
  const files: FolderFile[] = []
  const visit = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      const file = await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))
      files.push({ path: entry.fullPath.replace(/^\//, ''), file })
      return
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader()
    // A folder tells its entries some at a time, until there are none.
    for (;;) {
      const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail))
      if (some.length === 0) return
      for (const one of some) await visit(one)
    }
  }
  for (const entry of entries) await visit(entry)
  return files
}

/** The same, without the files that systems put into folders for themselves. */
export const ownFilesOfDrop = async (data: DataTransfer): Promise<FolderFile[]> =>
  (await filesOfDrop(data)).filter(({ path }) => !isOfSystem(path))
