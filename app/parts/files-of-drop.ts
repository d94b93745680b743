import { isOfSystem } from '#core/site'

/** A file of a folder that was chosen or dropped, and where it stands in it. */
export interface FolderFile {
  readonly path: string
  readonly file: File
}

/** Whether a folder is among what was dropped. */
export const holdsFolder = (data: DataTransfer): boolean =>
  [...data.items].some((item) => item.webkitGetAsEntry()?.isDirectory)

/** What was dropped, and what of it the computer does not let be read: paths of files, and of folders with `/` at their end. */
export interface Dropped {
  readonly files: readonly FolderFile[]
  readonly unread: readonly string[]
}

/** Files of what was dropped, folders with all that is in them. One that may not be read keeps nothing else from being so. */
export async function filesOfDrop(data: DataTransfer): Promise<Dropped> {
  const entries = [...data.items].flatMap((item) => item.webkitGetAsEntry() ?? [])
  const files: FolderFile[] = []
  const unread: string[] = []
  const visit = async (entry: FileSystemEntry): Promise<void> => {
    const path = entry.fullPath.replace(/^\//, '')
    if (entry.isFile) {
      const file = await fileOf(entry as FileSystemFileEntry)
      if (file) files.push({ path, file })
      else unread.push(path)
      return
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader()
    // A folder tells its entries some at a time, until there are none.
    for (;;) {
      const some = await new Promise<FileSystemEntry[] | null>((done) =>
        reader.readEntries(done, () => done(null)),
      )
      if (some === null) unread.push(`${path}/`)
      if (some === null || some.length === 0) return
      for (const one of some) await visit(one)
    }
  }
  for (const entry of entries) await visit(entry)
  return { files, unread }
}

const fileOf = (entry: FileSystemFileEntry): Promise<File | null> =>
  new Promise((done) => entry.file(done, () => done(null)))

/** The same, without the files that systems put into folders for themselves. */
export async function ownFilesOfDrop(data: DataTransfer): Promise<Dropped> {
  const { files, unread } = await filesOfDrop(data)
  return {
    files: files.filter(({ path }) => !isOfSystem(path)),
    unread: unread.filter((path) => !isOfSystem(path)),
  }
}

/** Whether the computer lets a file be read: its rights may keep it, or it has gone, or changed since it was chosen. */
export const isReadable = (file: Blob): Promise<boolean> =>
  file.slice(0, 1).arrayBuffer().then(() => true, () => false) // prettier-ignore
