import type { ListedFile } from '#core/delivery'
import { TransferError, type Transport } from './transport'

/** A destination in memory: what the contract of `Transport` means, for tests to hold the others against. */
export class MemoryTransport implements Transport {
  readonly hostKey = 'SHA256:memory'
  readonly #files = new Map<string, { bytes: Buffer; modifiedSeconds: number }>()
  #clock = 1_000

  async list(): Promise<ListedFile[]> {
    return [...this.#files.keys()].map((path) => this.#listed(path))
  }

  async read(path: string): Promise<Buffer> {
    const file = this.#files.get(path)
    if (!file) throw new TransferError('no-folder', `${path} is not there.`)
    return file.bytes
  }

  async put(path: string, bytes: Buffer): Promise<ListedFile> {
    this.#files.set(path, { bytes: Buffer.from(bytes), modifiedSeconds: this.#clock++ })
    return this.#listed(path)
  }

  async remove(path: string): Promise<void> {
    this.#files.delete(path)
  }

  async close(): Promise<void> {}

  #listed(path: string): ListedFile {
    const { bytes, modifiedSeconds } = this.#files.get(path)!
    return { path, sizeBytes: bytes.length, modifiedSeconds }
  }
}
