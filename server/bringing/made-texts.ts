import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'
import { pack, type PackedText, unpack } from './packed-texts'

/** Bytes that texts are written into, one after the other. */
const chunkBytes = 1_000_000

/** Bytes of a UTF-16 code unit in UTF-8 at the most: a pair of them takes four. */
const mostBytes = 3

/** Packed texts in the bytes that hold them, as they are handed over: where each of them stands there, and how long it is unpacked. */
export interface TextChunk {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly places: readonly (readonly [hash: Hash, at: number, size: number, length: number])[]
}

/**
 * Texts that are made, in UTF-8 and packed. On the heap, that the collector goes over again and again, there is enough as it is; and
 * what stands in a few pieces is handed to another thread as it is, none of it copied.
 */
export class MadeTexts {
  readonly #chunks: {
    readonly bytes: Buffer<ArrayBuffer>
    readonly places: [Hash, number, number, number][]
    used: number
  }[] = []
  readonly #known = new Map<Hash, PackedText>()
  /** What a text is written into before it is packed: one for all of them, since each of its own would be collected late. */
  #desk = Buffer.alloc(0)

  /** Keeps a text, and names it. */
  put(text: string): Hash {
    const written = this.#written(text)
    const hash = createHash('sha256').update(written).digest('hex')
    if (this.#known.has(hash)) return hash
    const { bytes, length } = pack(written)
    const size = bytes.length
    let chunk = this.#chunks.at(-1)
    if (!chunk || chunk.used + size > chunk.bytes.length) {
      const room = Buffer.from(new ArrayBuffer(Math.max(size, chunkBytes)))
      this.#chunks.push((chunk = { bytes: room, places: [], used: 0 }))
    }
    const at = chunk.used
    bytes.copy(chunk.bytes, at)
    this.#known.set(hash, { bytes: chunk.bytes.subarray(at, at + size), length })
    chunk.places.push([hash, at, size, length])
    chunk.used += size
    return hash
  }

  /** In UTF-8, until the next one is. */
  #written(text: string): Buffer {
    const room = text.length * mostBytes
    if (this.#desk.length < room) this.#desk = Buffer.allocUnsafeSlow(Math.max(room, 2 * this.#desk.length))
    return this.#desk.subarray(0, this.#desk.write(text))
  }

  get(hash: Hash): string | undefined {
    const known = this.#known.get(hash)
    return known && unpack(known).toString()
  }

  /** Gives all of them away, and keeps none. */
  *take(): Generator<TextChunk> {
    this.#known.clear()
    for (const { bytes, places } of this.#chunks.splice(0))
      yield { bytes: new Uint8Array(bytes.buffer), places }
  }
}
