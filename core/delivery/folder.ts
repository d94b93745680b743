import type { Hash } from '#core/site'
import {
  compareDelivery,
  type Comparison,
  type ComparedFile,
  type ListedFile,
  type ManifestFile,
  type RecordedFile,
} from './compare'
import { type HostTraits, keyAt } from './host-traits'

/** The site beside a folder whose files can be read: some of them have to be, to know what they are. */
export interface FolderComparison extends Comparison {
  /** Paths there of the files that only what is in them tells of, by their paths in the site. */
  readonly unread: ReadonlyMap<string, string>
  /** Paths there of files whose names are written in other letters than the site's, by their paths in the site. */
  readonly misspelled: ReadonlyMap<string, string>
}

/**
 * Holds the finished site against a folder, as `compareDelivery` does against a host. What was put there before and changed
 * since is somebody's own: it is no leftover that may be removed.
 * @param listed of the folders that the site and its record have files in
 */
export function compareFolder(
  manifest: readonly ManifestFile[],
  recorded: readonly RecordedFile[],
  listed: readonly ListedFile[],
  traits: HostTraits,
): FolderComparison {
  const { files, leftovers } = compareDelivery(manifest, recorded, listed, traits)
  const there = new Map(listed.map((file) => [keyAt(traits, file.path), file]))
  const record = new Map(recorded.map((file) => [keyAt(traits, file.path), file]))
  const unread = new Map<string, string>()
  const misspelled = new Map<string, string>()
  for (const { path, sizeBytes, state } of files) {
    const now = there.get(keyAt(traits, path))
    if (!now) continue
    if (now.path !== path) misspelled.set(path, now.path)
    if (now.sizeBytes === sizeBytes && (state === 'unknown' || state === 'changed there'))
      unread.set(path, now.path)
  }
  const isTouched = (path: string) => {
    const [now, last] = [there.get(keyAt(traits, path)), record.get(keyAt(traits, path))]
    return now?.sizeBytes !== last?.sizeBytes || now?.modifiedSeconds !== last?.modifiedSeconds
  }
  return {
    files,
    leftovers: leftovers.map((one) =>
      one.state === 'to remove' && isTouched(one.path) ? { ...one, state: 'stray' } : one,
    ),
    unread,
    misspelled,
  }
}

/** What is to be written, once those files were read. */
export function settleFolder(
  { files, leftovers, misspelled }: FolderComparison,
  hashes: ReadonlyMap<string, Hash>,
): Comparison {
  return {
    files: files.map((file): ComparedFile => {
      const hash = hashes.get(file.path)
      const state = hash === file.hash ? 'same' : file.state === 'unknown' ? 'other there' : file.state
      return { ...file, state: state === 'same' && misspelled.has(file.path) ? 'changed' : state }
    }),
    leftovers,
  }
}
