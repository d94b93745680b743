import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'

/** Bytes that texts are written into, one after the other. */
const chunkBytes = 1_000_000

/** Texts in the bytes that hold them, as they are handed over: where each of them stands there. */
export interface TextChunk {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly places: readonly (readonly [hash: Hash, at: number, length: number])[]
}

/**
 * Texts that are made, in UTF-8. On the heap, that the collector goes over again and again, there is enough as it is; and what stands
 * in a few pieces is handed to another thread as it is, none of it copied.
 */
export class MadeTexts {
  readonly #chunks: {
    readonly bytes: Buffer<ArrayBuffer>
    readonly places: [Hash, number, number][]
    used: number
  }[] = []
  readonly #known = new Map<Hash, Buffer>()

  /** Keeps a text, and names it. */
  put(text: string): Hash {
    const length = Buffer.byteLength(text)
    let chunk = this.#chunks.at(-1)
    if (!chunk || chunk.used + length > chunk.bytes.length) {
      const bytes = Buffer.from(new ArrayBuffer(Math.max(length, chunkBytes)))
      this.#chunks.push((chunk = { bytes, places: [], used: 0 }))
    }
    const at = chunk.used
    const written = chunk.bytes.subarray(at, at + length)
    written.write(text)
    const hash = createHash('sha256').update(written).digest('hex')
    // What is there already is written over by the next.
    if (this.#known.has(hash)) return hash
    this.#known.set(hash, written)
    chunk.places.push([hash, at, length])
    chunk.used += length
    return hash
  }

  get(hash: Hash): string | undefined {
    return this.#known.get(hash)?.toString()
  }

  /** Gives all of them away, and keeps none. */
  *take(): Generator<TextChunk> {
    this.#known.clear()
    for (const { bytes, places } of this.#chunks.splice(0))
      if (places.length > 0) yield { bytes: new Uint8Array(bytes.buffer), places }
  }
}
