import type { Hash } from '#core/site'

/** A content as it is kept: SHA-256 of its bytes, and how many they are. */
export interface StoredContent {
  readonly hash: Hash
  readonly sizeBytes: number
}

/** Bytes in pieces of any size, as they come from a file, a request or a table. */
export type Pieces = AsyncIterable<Uint8Array> | Iterable<Uint8Array>

/**
 * Where contents are kept, each once, under the hash of what is in it. What is large is never whole in
 * memory: it comes and goes in pieces.
 */
export interface ContentStore {
  /** Keeps what comes. One that is there already is young again. */
  put(pieces: Pieces): Promise<StoredContent>
  /** Its bytes from `start` on, in pieces of at most `portionBytes`; null when it is not there. */
  get(
    hash: Hash,
    start?: number,
  ): Promise<{ readonly sizeBytes: number; readonly pieces: AsyncIterable<Buffer> } | null>
  /** Sizes of those that are there. */
  sizes(hashes: Iterable<Hash>): Promise<ReadonlyMap<Hash, number>>
  /** Whether anything names it: a site, its history, a record of a delivery. */
  isNamed(hash: Hash): Promise<boolean>
  /**
   * Removes contents that nothing names and that have not been put for so long; and what was begun and
   * never came to its end.
   * @returns how many contents were removed; fewer than `most` when none is left
   */
  collect(most: number, afterHours: number): Promise<number>
}

/** Bytes of a portion: what is held of one content at a time. */
export const portionBytes = 1_000_000

/** Pieces of any size as portions, all of them full but the last; one empty one for nothing. */
export async function* portionsOfPieces(pieces: Pieces, most = portionBytes): AsyncGenerator<Buffer> {
  let held: Buffer[] = []
  let size = 0
  let isFirst = true
  for await (const piece of pieces) {
    // A view: nothing of a piece is copied before it is whole.
    let rest = Buffer.from(piece.buffer, piece.byteOffset, piece.byteLength)
    while (size + rest.length >= most) {
      const head = rest.subarray(0, most - size)
      rest = rest.subarray(head.length)
      yield Buffer.concat([...held, head])
      isFirst = false
      held = []
      size = 0
    }
    if (rest.length > 0) {
      held.push(rest)
      size += rest.length
    }
  }
  if (size > 0 || isFirst) yield Buffer.concat(held)
}
