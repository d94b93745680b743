import type { HostTraits, ListedFile } from '#core/delivery'
import type { Pieces } from '#server/contents'
import { mendListing, type OnSent, TransferError, type Transport } from './transport'

interface StoredFile {
  readonly bytes: Buffer
  readonly modifiedSeconds: number
}

/** A destination in memory: what the contract of `Transport` means, for tests to hold the others against. */
export class MemoryTransport implements Transport {
  traits: HostTraits = {}
  readonly tellsUtc = true
  readonly #files = new Map<string, StoredFile>()
  #clock = 1_000

  constructor(private readonly mark = '00000000') {}

  async list(): Promise<ListedFile[]> {
    return [...this.#files.keys()].map((path) => this.#listed(path))
  }

  learn(traits: HostTraits): void {
    this.traits = { ...this.traits, ...traits }
  }

  async has(path: string): Promise<boolean> {
    return this.#files.has(path)
  }

  async folders(at: string): Promise<string[]> {
    const below = at === '' ? '' : `${at}/`
    const rest = [...this.#files.keys()].filter((path) => path.startsWith(below))
    return [...new Set(rest.flatMap((path) => path.slice(below.length).split('/').slice(0, -1)[0] ?? []))]
  }

  async *read(path: string, mostBytes: number): AsyncGenerator<Buffer> {
    const file = this.#files.get(path)
    if (!file) throw new TransferError('not-there', { at: path })
    if (file.bytes.length > mostBytes)
      throw new TransferError('too-much', { what: `${path} is larger than the host says it is.` })
    yield file.bytes
  }

  async put(path: string, pieces: Pieces, onSent?: OnSent): Promise<ListedFile> {
    const held: Uint8Array[] = []
    for await (const piece of pieces) {
      held.push(Buffer.from(piece))
      onSent?.(piece.byteLength)
    }
    this.#files.set(path, { bytes: Buffer.concat(held), modifiedSeconds: this.#clock++ })
    return this.#listed(path)
  }

  async setTime(path: string, modifiedSeconds: number): Promise<ListedFile> {
    const file = this.#files.get(path)
    if (!file) throw new TransferError('not-there', { at: path })
    this.#files.set(path, { ...file, modifiedSeconds })
    return this.#listed(path)
  }

  async remove(path: string): Promise<void> {
    this.#files.delete(path)
  }

  mend(listed: readonly ListedFile[]): Promise<ListedFile[]> {
    return mendListing(this, listed, this.mark, async (from, to) => {
      this.#files.set(to, this.#files.get(from)!)
      this.#files.delete(from)
    })
  }

  async close(): Promise<void> {}

  #listed(path: string): ListedFile {
    const { bytes, modifiedSeconds } = this.#files.get(path)!
    return { path, sizeBytes: bytes.length, modifiedSeconds }
  }
}
