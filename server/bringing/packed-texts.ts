import { deflateRawSync, inflateRawSync } from 'node:zlib'
import type { Hash } from '#core/site'

/** Shorter texts are kept as they are: they are as long packed. */
const leastPacked = 1_000

/** Bytes that zlib is given at once to write into, within what it takes. */
const roomFor = (bytes: number): number => Math.min(65_536, Math.max(256, bytes))

/** A text in UTF-8, packed (RFC 1951) where that makes it shorter. Pages of one site pack to a fifth and less of what they are. */
export interface PackedText {
  readonly bytes: Buffer
  /** Bytes of the text itself; equal to those that it is kept in where it is not packed. */
  readonly length: number
}

export function pack(text: Buffer): PackedText {
  const { length } = text
  // Fast and good enough: it is done for each of thousands, and undone soon. Room for what most come to, not several times that.
  const packed =
    length < leastPacked ? text : deflateRawSync(text, { level: 1, chunkSize: roomFor(length >> 2) })
  return { bytes: packed.length < length ? packed : text, length }
}

export const unpack = ({ bytes, length }: PackedText): Buffer =>
  bytes.length === length
    ? bytes
    : inflateRawSync(bytes, { maxOutputLength: length, chunkSize: roomFor(length) })

/** Texts by what names them, each unpacked when it is asked for. */
export class PackedTexts {
  readonly #texts = new Map<Hash, PackedText>()

  set(hash: Hash, text: PackedText): void {
    this.#texts.set(hash, text)
  }

  get(hash: Hash): Buffer | undefined {
    const text = this.#texts.get(hash)
    return text && unpack(text)
  }

  get hashes(): readonly Hash[] {
    return [...this.#texts.keys()]
  }

  /** Bytes that all of them take as they are kept. */
  get sizeBytes(): number {
    let size = 0
    for (const { bytes } of this.#texts.values()) size += bytes.length
    return size
  }
}
