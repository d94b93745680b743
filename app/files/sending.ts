import type { SiteStore } from '../document/site-store'
import type { SendOptions, Uploads } from './uploads'

/** Sends files that belong together: they are one step of undo, and go together where nothing comes of them. */
export class Sending {
  readonly #had: ReadonlySet<string>
  readonly #sent = new Set<string>()
  readonly #over = new AbortController()
  readonly #together: SendOptions = { actId: crypto.randomUUID(), signal: this.#over.signal }

  constructor(
    private readonly store: SiteStore,
    private readonly uploads: Pick<Uploads, 'send'>,
  ) {
    this.#had = new Set(store.get().site.files.map(({ id }) => id))
  }

  async send(file: Blob, name: string): Promise<string | null> {
    const id = await this.uploads.send(file, name, this.#together)
    if (id !== null && !this.#had.has(id)) {
      this.#sent.add(id)
      // It had arrived when it was called off.
      if (this.#over.signal.aborted) this.#remove()
    }
    return id
  }

  /** What was sent for nothing is no part of the site; what is on its way is called off. */
  takeBack(): void {
    if (this.#over.signal.aborted) return
    this.#over.abort()
    this.#remove()
  }

  #remove(): void {
    const fileIds = this.store.get().site.files.flatMap(({ id }) => (this.#sent.has(id) ? [id] : []))
    if (fileIds.length > 0) this.store.change({ kind: 'removeFiles', fileIds })
  }
}
