import type { Hash } from '#core/site'
import { type HostTraits, keyAt } from './host-traits'

/** A file of the finished site, as it is to stand at the destination. */
export interface ManifestFile {
  readonly path: string
  readonly hash: Hash
  readonly sizeBytes: number
  readonly kind: 'page' | 'file'
  readonly isHome: boolean
}

/** What an earlier delivery left at a path, with what the host then said of it. */
export interface RecordedFile {
  readonly path: string
  readonly hash: Hash
  readonly sizeBytes: number
  /** Modification time the host reported after the file was sent, in seconds; null when it tells none. */
  readonly modifiedSeconds: number | null
}

/** A file found at the destination. */
export interface ListedFile {
  readonly path: string
  readonly sizeBytes: number
  readonly modifiedSeconds: number | null
}

const [minuteSeconds, daySeconds] = [60, 86_400]

/**
 * Whether a time that a host tells is the one it told before. Listings that name no year for half a year and no hour after
 * it (`Jan  5 12:34`, then `Jan  5  2026`) tell the day of what they told to the minute.
 */
function isSameTime(now: number | null, before: number | null): boolean {
  if (now === before || now === null || before === null) return now === before
  const isDayAlone = now % daySeconds === 0 && before % minuteSeconds === 0
  return isDayAlone && Math.floor(before / daySeconds) === now / daySeconds
}

/** State of a file of the site against the destination. */
export type FileState =
  'new' | 'changed' | 'same' | 'changed there' | 'gone there' | 'other there' | 'unknown'

export interface ComparedFile extends ManifestFile {
  readonly state: FileState
}

/** A file at the destination that is no file of the site now. */
export interface Leftover {
  readonly path: string
  readonly sizeBytes: number
  /** `to remove`: an earlier delivery put it there; `stray`: somebody else did. */
  readonly state: 'to remove' | 'stray'
}

export interface Comparison {
  readonly files: readonly ComparedFile[]
  readonly leftovers: readonly Leftover[]
}

/**
 * Holds the finished site against what earlier deliveries recorded and what is there now.
 * `other there` is a file that no delivery put where one of the site's is to stand, such as a host's
 * own home page; `unknown` is such a file of the right size, and only reading it back can tell.
 * @param traits of the host: where it does not tell case apart, `About.html` is no leftover of `about.html` but the file itself
 */
export function compareDelivery(
  manifest: readonly ManifestFile[],
  recorded: readonly RecordedFile[],
  listed: readonly ListedFile[],
  traits: HostTraits = {},
): Comparison {
  const exact = new Map(recorded.map((file) => [file.path, file]))
  const record = new Map(recorded.map((file) => [keyAt(traits, file.path), file]))
  const there = new Map(listed.map((file) => [keyAt(traits, file.path), file]))
  const files = manifest.map((file): ComparedFile => {
    const key = keyAt(traits, file.path)
    const now = there.get(key)
    const last = exact.get(file.path) ?? record.get(key)
    there.delete(key)
    if (!now) return { ...file, state: last ? 'gone there' : 'new' }
    if (!last) return { ...file, state: now.sizeBytes === file.sizeBytes ? 'unknown' : 'other there' }
    const untouched =
      now.sizeBytes === last.sizeBytes && isSameTime(now.modifiedSeconds, last.modifiedSeconds)
    if (!untouched) return { ...file, state: 'changed there' }
    return { ...file, state: last.hash === file.hash ? 'same' : 'changed' }
  })
  const leftovers = [...there.values()]
    .map((file): Leftover => {
      const state = record.has(keyAt(traits, file.path)) ? 'to remove' : 'stray'
      return { path: file.path, sizeBytes: file.sizeBytes, state }
    })
    .sort((a, b) => (a.path < b.path ? -1 : 1))
  return { files, leftovers }
}

/** Files that have to be sent for the destination to show the site as it is. */
export function filesToSend(comparison: Comparison): ComparedFile[] {
  return comparison.files.filter((file) => file.state !== 'same')
}
