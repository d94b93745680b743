import {
  type ComparedFile,
  type Comparison,
  compareFolder,
  type ListedFile,
  type ManifestFile,
  type RecordedFile,
  settleFolder,
  stepOf,
} from '#core/delivery'
import {
  faultName,
  fileAt,
  type FoundInFolder,
  hashOfFile,
  isThere,
  lookIntoFolder,
  removeAt,
  writeAt,
} from './folder-files'
import type { KeptFolder } from './kept-folder'
import { type Bytes, fetchMade, listMade, NotMade, portionsToWrite } from './made-files'

/** The site beside a folder of this computer. */
export interface Beside extends Comparison {
  readonly kept: KeptFolder
  /** Files there that are nothing of the site's. */
  readonly otherCount: number
  /** Paths there of files whose names are written in other letters. */
  readonly misspelled: ReadonlyMap<string, string>
}

export type Tell = (done: number, all: number) => void

/** A file that is larger is not read to know what it is: all of it would be in memory. */
const longestRead = 500_000_000

/** Looks at what of the site is in a folder. */
export async function lookBeside(
  siteId: string,
  { folder, record }: KeptFolder,
  signal: AbortSignal,
  tell: Tell,
): Promise<Beside> {
  const manifest = await listMade(siteId, signal)
  const paths = new Set([...manifest, ...record].map(({ path }) => path))
  let seen = 0
  const found: FoundInFolder = await lookIntoFolder(folder, paths, signal, () => tell(++seen, paths.size))
  const compared = compareFolder(manifest, record, found.listed, found.traits)
  const hashes = new Map<string, string>()
  for (const [path, at] of compared.unread) {
    signal.throwIfAborted()
    const file = await fileAt(folder, at)
    const hash = file && file.size <= longestRead ? await hashOfFile(file) : null
    if (hash !== null) hashes.set(path, hash)
    tell(hashes.size, compared.unread.size)
  }
  const settled = settleFolder(compared, hashes)
  return {
    files: settled.files,
    // What was put there and then changed is somebody's own by now.
    leftovers: settled.leftovers.filter(({ state }) => state === 'to remove'),
    otherCount: found.otherCount + settled.leftovers.filter(({ state }) => state === 'stray').length,
    misspelled: compared.misspelled,
    kept: { folder, record: recordOf(settled, hashes, record, found.listed) },
  }
}

/** What is known of what stands there: what was read and found to be the site's counts as put there, and what is gone is forgotten. */
function recordOf(
  { files }: Comparison,
  hashes: ReadonlyMap<string, string>,
  record: readonly RecordedFile[],
  listed: readonly ListedFile[],
): RecordedFile[] {
  const there = new Map(listed.map((file) => [file.path, file]))
  const known = new Map(record.filter(({ path }) => there.has(path)).map((file) => [file.path, file]))
  for (const { path, hash, state } of files) {
    const now = there.get(path)
    if (now && state === 'same' && hashes.has(path)) known.set(path, { ...now, hash })
  }
  return [...known.values()]
}

/** What came of putting files into a folder. */
export interface PutFiles {
  readonly kept: KeptFolder
  readonly writtenCount: number
  readonly removedCount: number
  /** Files that could not be written or removed, and why. */
  readonly failed: readonly { readonly path: string; readonly why: string }[]
}

/** Written at once: a browser has each file that stands on a disk looked at before it puts it in place, and waits for that. */
const atOnce = 16
/** A file that is larger is written as it comes, and not held for its turn. */
const longestHeld = 1_000_000

async function all(pieces: AsyncIterable<Bytes>): Promise<Bytes[]> {
  const held: Bytes[] = []
  // A copy: a piece of what came would keep all of that.
  for await (const piece of pieces) held.push(piece.slice())
  return held
}

/**
 * Writes files of the site into a folder, pages after what they need, and removes others. One that cannot be written is told
 * of, and the rest is written; a folder that may no longer be written in, is gone or has no room, ends it.
 * @param keep called as soon as some of it stands there, so that a cut loses nothing of what is known
 */
export async function putFiles(
  siteId: string,
  { kept, misspelled }: Beside,
  files: readonly ComparedFile[],
  removing: readonly string[],
  signal: AbortSignal,
  tell: Tell,
  keep: (kept: KeptFolder) => Promise<void>,
): Promise<PutFiles> {
  const { folder } = kept
  const record = new Map(kept.record.map((file) => [file.path, file]))
  const failed: { path: string; why: string }[] = []
  const now = (): KeptFolder => ({ folder, record: [...record.values()] })
  let written = 0
  let removed = 0
  const under = new Set<Promise<void>>()
  /** What ended all of it, as soon as there is something. */
  let end: { error: unknown } | null = null
  const goOn = () => {
    signal.throwIfAborted()
    if (end) throw end.error
  }
  const attempt = async (path: string, work: () => Promise<void>) => {
    try {
      await work()
    } catch (error) {
      const why = error instanceof NotMade ? null : await whyNot(error, folder)
      if (why === null) end ??= { error }
      else failed.push({ path, why })
    }
    tell(written + removed + failed.length, files.length + removing.length)
  }
  const write = (file: ManifestFile, pieces: AsyncIterable<Bytes> | readonly Bytes[]) =>
    attempt(file.path, async () => {
      const other = misspelled.get(file.path)
      if (other !== undefined) await removeAt(folder, other)
      record.set(file.path, recorded(file, await writeAt(folder, file.path, pieces)))
      written += 1
    })
  try {
    let step = -1
    for (const portion of portionsToWrite(files)) {
      for await (const { file, pieces } of fetchMade(siteId, portion, signal)) {
        // What a page needs stands there before it does.
        if (stepOf(file) !== step) await Promise.all(under)
        step = stepOf(file)
        goOn()
        if (file.sizeBytes > longestHeld) await write(file, pieces)
        else {
          const one = write(file, await all(pieces)).finally(() => under.delete(one))
          under.add(one)
          if (under.size >= atOnce) await Promise.race(under)
        }
        goOn()
      }
      await keep(now())
    }
    await Promise.all(under)
    goOn()
    for (const path of removing) {
      await attempt(path, async () => {
        await removeAt(folder, path)
        record.delete(path)
        removed += 1
      })
      goOn()
    }
  } finally {
    // What was begun is written to its end, and counts as written.
    await Promise.all(under)
    await keep(now())
  }
  return { kept: now(), writtenCount: written, removedCount: removed, failed }
}

const recorded = ({ path, hash }: ManifestFile, { size, lastModified }: File): RecordedFile => ({
  path,
  hash,
  sizeBytes: size,
  modifiedSeconds: Math.floor(lastModified / 1000),
})

/** Why one file could not be written; null where no other could be, either. */
async function whyNot(error: unknown, folder: KeptFolder['folder']): Promise<string | null> {
  if (error instanceof TypeError) return 'the browser takes no such name'
  switch (faultName(error)) {
    case 'NotAllowedError':
      // The browser may, and the computer does not let it.
      return (await folder.queryPermission?.({ mode: 'readwrite' })) === 'granted'
        ? 'this computer does not allow it'
        : null
    case 'QuotaExceededError':
    case 'AbortError':
    case '':
      return null
    case 'TypeMismatchError':
      return 'a folder stands where it should be, or a file where its folder should be'
    case 'SecurityError':
      return 'a link to another place stands where it should be, and no browser follows one'
    case 'NoModificationAllowedError':
      return 'it is only for reading, or another program has it open'
    case 'InvalidModificationError':
      return 'it is a folder that is not empty'
    case 'InvalidStateError':
      return 'this computer does not write it there: its name may be too long'
    default:
      return (await isThere(folder)) ? 'this computer does not write it there' : null
  }
}

/** What ended it, in a sentence. */
export function sayWhatEnded(error: unknown): string {
  if (error instanceof NotMade) return error.message
  switch (faultName(error)) {
    case 'NotAllowedError':
      return 'The browser may not write into this folder. Choose it again, and allow it.'
    case 'QuotaExceededError':
      return 'There is no room left for it.'
    case 'NotFoundError':
      return 'The folder is no longer there. Choose another one.'
    default:
      return 'Something went wrong. What was written stays; compare again to go on.'
  }
}
