import { createHash } from 'node:crypto'
import type { Hash } from '#core/site'
import { type ContentStore, type Pieces, portionsOfPieces, type StoredContent } from './store'

interface Kept {
  readonly portions: readonly Buffer[]
  readonly sizeBytes: number
  putAt: number
}

/** Contents in memory: what the contract of `ContentStore` means, for tests to hold others against. */
export class MemoryContents implements ContentStore {
  readonly #kept = new Map<Hash, Kept>()

  /**
   * @param names what is named from outside
   * @param now hours, for age
   */
  constructor(
    private readonly names: ReadonlySet<Hash>,
    private readonly now: () => number,
  ) {}

  async put(pieces: Pieces): Promise<StoredContent> {
    const digest = createHash('sha256')
    const portions: Buffer[] = []
    let sizeBytes = 0
    for await (const portion of portionsOfPieces(pieces)) {
      digest.update(portion)
      sizeBytes += portion.length
      portions.push(portion)
    }
    const hash = digest.digest('hex')
    this.#kept.set(hash, { portions, sizeBytes, putAt: this.now() })
    return { hash, sizeBytes }
  }

  async get(hash: Hash, start = 0) {
    const kept = this.#kept.get(hash)
    if (!kept) return null
    async function* pieces(portions: readonly Buffer[]) {
      let from = start
      for (const portion of portions) {
        if (from < portion.length) yield portion.subarray(from)
        from = Math.max(0, from - portion.length)
      }
    }
    return { sizeBytes: kept.sizeBytes, pieces: pieces(kept.portions) }
  }

  async sizes(hashes: Iterable<Hash>): Promise<ReadonlyMap<Hash, number>> {
    const sizes = new Map<Hash, number>()
    for (const hash of hashes) {
      const kept = this.#kept.get(hash)
      if (kept) sizes.set(hash, kept.sizeBytes)
    }
    return sizes
  }

  async isNamed(hash: Hash): Promise<boolean> {
    return this.names.has(hash)
  }

  async collect(most: number, afterHours: number): Promise<number> {
    let removed = 0
    for (const [hash, { putAt }] of this.#kept) {
      if (removed === most) break
      if (this.names.has(hash) || putAt > this.now() - afterHours) continue
      this.#kept.delete(hash)
      removed += 1
    }
    return removed
  }
}
