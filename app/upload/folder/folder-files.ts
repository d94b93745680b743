import type { HostTraits, ListedFile } from '#core/delivery'

/** What browsers have that write into folders (File System Access), beyond what all have (File System Standard). */
export interface Folder extends FileSystemDirectoryHandle {
  queryPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>
  requestPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>
}
type PickFolder = (how: { mode: 'readwrite'; id: string }) => Promise<Folder>

/** Asks for a folder; null in a browser that cannot write into one. */
export const folderPicker = (): PickFolder | null => {
  const { showDirectoryPicker } = globalThis as { showDirectoryPicker?: PickFolder }
  return showDirectoryPicker?.bind(globalThis) ?? null
}

const folderOf = (path: string) => path.slice(0, path.lastIndexOf('/') + 1)
const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1)

/** The folder in which a path stands; null where it is not there and none is made. */
async function folderAt(top: Folder, folder: string, create: boolean): Promise<Folder | null> {
  let at = top
  for (const step of folder.split('/').filter((one) => one !== '')) {
    try {
      at = (await at.getDirectoryHandle(step, { create })) as Folder
    } catch (error) {
      if (!create && isMissing(error)) return null
      throw error
    }
  }
  return at
}

/** What a browser calls it that something was not done; empty for what is no fault of files. */
export const faultName = (error: unknown): string => (error instanceof DOMException ? error.name : '')

/** No such thing, a file where a folder was asked for, or a link, which no browser follows: what is asked for is not there. */
const isMissing = (error: unknown) =>
  ['NotFoundError', 'TypeMismatchError', 'SecurityError'].includes(faultName(error))

/** What the rights of the computer keep from being read: a folder, or a file. */
const isUnreadable = (error: unknown) =>
  ['NoModificationAllowedError', 'NotReadableError'].includes(faultName(error))

/** Whether a folder is still where it was. */
export const isThere = (folder: Folder): Promise<boolean> =>
  folder.keys().next().then(() => true, () => false) // prettier-ignore

export interface FoundInFolder {
  readonly listed: readonly ListedFile[]
  /** Files beside them that are nobody's business here. */
  readonly otherCount: number
  readonly traits: HostTraits
}

/**
 * Looks at files of a folder: those of some paths, and what may be one of them under a name in other letters. Folders that
 * hold none of them are not gone into: somebody may have chosen a whole disk.
 */
export async function lookIntoFolder(
  top: Folder,
  paths: ReadonlySet<string>,
  signal: AbortSignal,
  onSeen: () => void,
): Promise<FoundInFolder> {
  const loose = new Set([...paths].map((path) => path.toLowerCase()))
  const listed: ListedFile[] = []
  let otherCount = 0
  let traits: HostTraits = {}
  for (const folder of new Set([...paths].map(folderOf))) {
    const at = await folderAt(top, folder, false)
    if (!at) continue
    const names = new Set<string>()
    const wanted: FileSystemFileHandle[] = []
    try {
      for await (const handle of at.values()) {
        signal.throwIfAborted()
        if (handle.kind !== 'file') continue
        names.add(handle.name)
        if (loose.has(`${folder}${handle.name}`.toLowerCase())) wanted.push(handle)
        else otherCount += 1
      }
    } catch (error) {
      // One that may not be read holds nothing that could be told; who writes there is told why it fails.
      if (!isUnreadable(error)) throw error
    }
    for (const handle of wanted) {
      signal.throwIfAborted()
      const file = await handle.getFile()
      listed.push({
        path: folder + handle.name,
        sizeBytes: file.size,
        modifiedSeconds: Math.floor(file.lastModified / 1000),
      })
      onSeen()
    }
    traits = traits.tellsCase === undefined ? await traitsOf(at, names) : traits
  }
  return { listed, otherCount, traits }
}

/** Whether a folder tells names apart that differ in case: one that is there is asked for in other letters. */
async function traitsOf(at: Folder, names: ReadonlySet<string>): Promise<HostTraits> {
  for (const name of names) {
    const other = name === name.toLowerCase() ? name.toUpperCase() : name.toLowerCase()
    if (names.has(other) || other === name) continue
    const isOne = await at.getFileHandle(other).then(() => true, () => false) // prettier-ignore
    return { tellsCase: !isOne }
  }
  return {}
}

/** The file at a path; null where there is none. */
export async function fileAt(top: Folder, path: string): Promise<File | null> {
  const at = await folderAt(top, folderOf(path), false)
  try {
    return (await (await at?.getFileHandle(nameOf(path)))?.getFile()) ?? null
  } catch (error) {
    if (isMissing(error)) return null
    throw error
  }
}

/**
 * Writes a file as its bytes come. What stood there is there until all of them are: the browser writes beside it, and puts it
 * in place at the end. Where that fails and nothing stood there, nothing does afterwards.
 */
export async function writeAt(
  top: Folder,
  path: string,
  pieces: AsyncIterable<Uint8Array<ArrayBuffer>> | Iterable<Uint8Array<ArrayBuffer>>,
): Promise<File> {
  const at = (await folderAt(top, folderOf(path), true))!
  const name = nameOf(path)
  const isNew = await at.getFileHandle(name).then(() => false, (error: unknown) => faultName(error) === 'NotFoundError') // prettier-ignore
  const handle = await at.getFileHandle(name, { create: true })
  let out: FileSystemWritableFileStream | null = null
  try {
    out = await handle.createWritable()
    for await (const piece of pieces) await out.write(piece)
    await out.close()
    return await handle.getFile()
  } catch (error) {
    await out?.abort().catch(() => {})
    // The browser has made it, empty, for its handle.
    if (isNew) await at.removeEntry(name).catch(() => {})
    throw error
  }
}

/** Removes a file; one that is gone already is as it should be. */
export async function removeAt(top: Folder, path: string): Promise<void> {
  try {
    await (await folderAt(top, folderOf(path), false))?.removeEntry(nameOf(path))
  } catch (error) {
    if (!isMissing(error)) throw error
  }
}

/** SHA-256 in hexadecimal digits, as the finished site tells it; null of what may not be read. */
export async function hashOfFile(file: Blob): Promise<string | null> {
  const bytes = await file.arrayBuffer().catch((error: unknown) => {
    if (isUnreadable(error)) return null
    throw error
  })
  if (!bytes) return null
  const digest = await crypto.subtle.digest('SHA-256', bytes)
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('')
}
