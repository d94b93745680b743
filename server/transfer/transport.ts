import type { ListedFile } from '#core/delivery'

/** Where a transport connects to. */
export interface TransferTarget {
  readonly host: string
  readonly port: number
  readonly account: string
  readonly password: string
  /** Folder that the public address shows, as the account sees it. */
  readonly folder: string
  /** Fingerprint that the host's key has to have; null accepts any, to show it to the author. */
  readonly hostKey: string | null
}

/** Why a transfer failed, told apart by what the author can do about it. */
export type TransferErrorCode =
  | 'refused'
  | 'not-found'
  | 'timeout'
  | 'wrong-password'
  | 'host-key-changed'
  | 'no-folder'
  | 'not-allowed'
  | 'disk-full'
  | 'connection-lost'
  | 'other'

/** An expected failure of a transfer, with a sentence for the author. */
export class TransferError extends Error {
  constructor(
    readonly code: TransferErrorCode,
    message: string,
    options?: { cause?: unknown },
  ) {
    super(message, options)
  }
}

/**
 * One open connection to a destination. Paths are relative to the target's folder, with `/`.
 * Operations may run at the same time. All reject with `TransferError`; after `connection-lost`
 * the transport is of no more use.
 */
export interface Transport {
  /** Fingerprint of the host's key, `SHA256:…` as OpenSSH writes it. */
  readonly hostKey: string
  /** Every file below the folder; an empty list when the folder is not there. Symbolic links are not followed. */
  list(): Promise<ListedFile[]>
  /** Whole contents of a file. */
  read(path: string): Promise<Buffer>
  /**
   * Puts a file in place so that nobody ever sees a part of it: written under a temporary name
   * beside it, then renamed. Folders on the way are made.
   * @returns the file as the host now reports it
   */
  put(path: string, bytes: Buffer): Promise<ListedFile>
  /** Removes a file; it is no error when it is not there. */
  remove(path: string): Promise<void>
  close(): Promise<void>
}

export type OpenTransport = (target: TransferTarget) => Promise<Transport>

/** Mark of a temporary name; what a cut delivery leaves is told by it. */
export const temporarySuffix = '.rubricant-part'
