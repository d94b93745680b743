import type { HostTraits, ListedFile } from '#core/delivery'
import { Problem, type ProblemCode } from '#core/problems'
import type { Pieces } from '#server/contents'

/** A private key in PEM or OpenSSH's form. */
export interface PrivateKey {
  readonly key: string
  readonly passphrase?: string
}

/** Where a transport connects to. */
export interface TransferTarget {
  readonly host: string
  readonly port: number
  readonly account: string
  readonly password: string
  /** What signs in, where the protocol and the account take keys; null for the password. */
  readonly privateKey?: PrivateKey | null
  /** Folder that the public address shows, as the account sees it. */
  readonly folder: string
  /** Fingerprint that the host's key has to have before anything secret is sent to it. */
  readonly hostKey: string
  /** Tells this destination's temporary names from those of others in the same place: 8 hexadecimal digits. */
  readonly mark: string
  /** What was found out about the host before. */
  readonly traits?: HostTraits
}

/** What a host is given before it counts as hanging or as endless. */
export interface TransferLimits {
  /** Until a connection is signed in and ready. */
  readonly connectMs: number
  /** Without an answer to anything that was asked. */
  readonly silenceMs: number
  /** For one request after others that were asked later were answered, and for what is asked over a connection of its own. */
  readonly requestMs: number
  /** Files and folders that one listing may hold. */
  readonly entries: number
  /** Folders below one another. */
  readonly depth: number
}

export const transferLimits: TransferLimits = {
  connectMs: 10_000,
  silenceMs: 20_000,
  requestMs: 180_000,
  entries: 200_000,
  depth: 60,
}

/** Why a transfer failed, told apart by what the author can do about it. */
export type TransferErrorCode = Extract<
  ProblemCode,
  | 'unreachable'
  | 'wrong-host-password'
  | 'key-refused'
  | 'host-key-changed'
  | 'no-transfer'
  | 'not-there'
  | 'odd-name'
  | 'not-a-folder'
  | 'not-allowed'
  | 'read-only'
  | 'disk-full'
  | 'timeout'
  | 'connection-lost'
  | 'too-much'
  | 'other-bytes'
  | 'host-refused'
  | 'stopped'
>

/** An expected failure of a transfer. */
export class TransferError<C extends TransferErrorCode = TransferErrorCode> extends Problem<C> {}

/** Told of so many bytes that have gone out. */
export type OnSent = (byteCount: number) => void

/** Told of a folder that cannot be looked into, by its path with a slash behind it: one that a host keeps for itself. */
export type OnClosed = (folder: string, why: TransferError) => void

/**
 * One open connection to a destination. Paths are relative to the target's folder, with `/`.
 * Operations may run at the same time. All reject with `TransferError`, each within the limits the
 * transport was opened with, and at once when its signal is aborted; after `connection-lost`,
 * `timeout` or `stopped` the transport is of no more use.
 */
export interface Transport {
  /** What is known of the host by now: what was known before, and what it showed since. */
  readonly traits: HostTraits
  /** Whether it tells times in UTC to the second: what listings say in words may be of any zone. */
  readonly tellsUtc: boolean
  /** Notes what was found out about the host by looking at what is there. */
  learn(traits: HostTraits): void
  /** Whether the host has something by this name, however it writes it. */
  has(path: string): Promise<boolean>
  /**
   * Every file below the folder; an empty list when the folder is not there. Symbolic links are not
   * followed. `not-a-folder` when a file is in its place, `too-much` beyond the limits.
   * @param onClosed told of each folder below it that cannot be looked into
   */
  list(onClosed?: OnClosed): Promise<ListedFile[]>
  /** Names of the folders directly in a folder, by its path; none where it is not there. */
  folders(at: string): Promise<string[]>
  /** A file's bytes as they come; `too-much` as soon as it goes on beyond `mostBytes`. */
  read(path: string, mostBytes: number): AsyncIterable<Buffer>
  /**
   * Puts a file in place so that nobody ever sees a part of it: written under a temporary name
   * beside it, then renamed. Folders on the way are made. Where the host cannot rename onto a file
   * that is there, the old one steps aside under a name that `mend` knows, and is put back on failure.
   * @param pieces its bytes; one piece at a time is held
   * @param onSent told of bytes as they go out, so many at a time
   * @returns the file as the host now reports it
   */
  put(path: string, pieces: Pieces, onSent?: OnSent): Promise<ListedFile>
  /**
   * Says of a file when it was last changed.
   * @returns the file as the host then reports it: one that leaves its times as they are may say that it did
   * @throws TransferError where the host says that it does not
   */
  setTime(path: string, seconds: number): Promise<ListedFile>
  /** Removes a file; it is no error when it is not there. */
  remove(path: string): Promise<void>
  /**
   * Puts right what a cut `put` of this destination left among `listed`: a file that stepped aside
   * goes back where nothing took its place, parts are removed.
   * @returns the listing as it is then, without names of ours; it is read again where a file moved
   */
  mend(listed: readonly ListedFile[]): Promise<ListedFile[]>
  /** Ends the connection; never fails and never waits for the host. */
  close(): Promise<void>
}

export interface TransferOptions {
  /** Stops everything under way at once. */
  readonly signal?: AbortSignal
  readonly limits?: TransferLimits
}

export type OpenTransport = (target: TransferTarget, options?: TransferOptions) => Promise<Transport>

const temporaryName = /\.([0-9a-f]{8})(?:[0-9a-f]{8})?\.rubricant-(part|old)$/

/** Name of a part being written beside `path`; `nonce` (8 hexadecimal digits) keeps two apart. */
export const partName = (path: string, mark: string, nonce: string): string =>
  `${path}.${mark}${nonce}.rubricant-part`
/** Name under which the file at `path` steps aside. */
export const asideName = (path: string, mark: string): string => `${path}.${mark}.rubricant-old`

/** What a name of ours stands for; null for any other file. */
export function readTemporary(
  name: string,
): { readonly path: string; readonly mark: string; readonly kind: 'part' | 'old' } | null {
  const match = temporaryName.exec(name)
  return match
    ? { path: name.slice(0, match.index), mark: match[1]!, kind: match[2] as 'part' | 'old' }
    : null
}

/** What the contract's `mend` means, over the other operations. */
export async function mendListing(
  transport: Pick<Transport, 'list' | 'remove'>,
  listed: readonly ListedFile[],
  mark: string,
  moveBack: (from: string, to: string) => Promise<void>,
): Promise<ListedFile[]> {
  const there = new Set(listed.map((file) => file.path))
  let moved = false
  for (const { path } of listed) {
    const ours = readTemporary(path)
    if (ours?.mark !== mark) continue
    if (ours.kind === 'old' && !there.has(ours.path)) {
      await moveBack(path, ours.path)
      there.add(ours.path)
      moved = true
    } else await transport.remove(path)
  }
  const now = moved ? await transport.list() : listed
  return now.filter((file) => readTemporary(file.path) === null)
}
