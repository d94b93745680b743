import type { SiteStore } from '../document/site-store'
import type { Uploads } from './uploads'

/** Sends files, and knows which of them the site did not have before. */
export class Sending {
  readonly #had: ReadonlySet<string>
  readonly #sent = new Set<string>()

  constructor(
    private readonly store: SiteStore,
    private readonly uploads: Pick<Uploads, 'send'>,
  ) {
    this.#had = new Set(store.get().site.files.map(({ id }) => id))
  }

  async send(...file: Parameters<Uploads['send']>): Promise<string | null> {
    const id = await this.uploads.send(...file)
    if (id !== null && !this.#had.has(id)) this.#sent.add(id)
    return id
  }

  /** What was sent for nothing is no part of the site. */
  takeBack(): void {
    const fileIds = this.store.get().site.files.flatMap(({ id }) => (this.#sent.has(id) ? [id] : []))
    if (fileIds.length > 0) this.store.change({ kind: 'removeFiles', fileIds })
  }
}
