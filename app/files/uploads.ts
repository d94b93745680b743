import type { SiteStore } from '../document/site-store'

/** A file on its way to the site. */
export interface Upload {
  readonly id: string
  readonly name: string
  readonly sizeBytes: number
  readonly sentBytes: number
  readonly state: 'waiting' | 'sending' | 'failed'
  /** Why it failed. */
  readonly message: string | null
}

interface Waiting {
  readonly file: Blob
  readonly name: string
  readonly replaces: string | null
  readonly done: (fileId: string | null) => void
}

/** Files sent at the same time: more would only share the line. */
const atOnce = 3
const away = 'The server does not answer. Try again in a moment.'

/** The files that a window is sending, with their progress; each can be called off, and tried again. */
export class Uploads {
  #shown: readonly Upload[] = []
  readonly #waiting = new Map<string, Waiting>()
  readonly #running = new Map<string, XMLHttpRequest>()
  readonly #listeners = new Set<() => void>()

  constructor(
    private readonly siteId: string,
    private readonly store: SiteStore,
  ) {}

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => void this.#listeners.delete(listener)
  }
  readonly get = () => this.#shown

  #show(shown: readonly Upload[]): void {
    this.#shown = shown
    for (const listener of this.#listeners) listener()
  }

  #update(id: string, part: Partial<Upload>): void {
    this.#show(this.#shown.map((one) => (one.id === id ? { ...one, ...part } : one)))
  }

  /**
   * Sends a file; resolves to the id of the file of the site, or null when it was called off.
   * @param replaces the file whose place it takes
   */
  send(file: Blob, name: string, replaces: string | null = null): Promise<string | null> {
    const id = crypto.randomUUID()
    return new Promise((done) => {
      this.#waiting.set(id, { file, name, replaces, done })
      const upload: Upload = {
        id,
        name,
        sizeBytes: file.size,
        sentBytes: 0,
        state: 'waiting',
        message: null,
      }
      this.#show([...this.#shown, upload])
      this.#next()
    })
  }

  /** Begins what waits, as many as may run. */
  #next(): void {
    for (const { id, state } of this.#shown) {
      if (this.#running.size >= atOnce) return
      if (state === 'waiting' && !this.#running.has(id)) this.#begin(id)
    }
  }

  #begin(id: string): void {
    const { file, name, replaces } = this.#waiting.get(id)!
    const query = new URLSearchParams({ id, name, seen: String(this.store.get().revision) })
    if (replaces !== null) query.set('replaces', replaces)
    // `fetch` does not tell how much of a body has gone.
    const request = new XMLHttpRequest()
    this.#running.set(id, request)
    this.#update(id, { state: 'sending', sentBytes: 0, message: null })
    request.open('POST', `/sites/${this.siteId}/files?${query}`)
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded }) => this.#update(id, { sentBytes: loaded })
    request.onload = () => void this.#end(id, request)
    request.onerror = () => this.#fail(id, away)
    request.send(file)
  }

  async #end(id: string, request: XMLHttpRequest): Promise<void> {
    const told = request.response as { problem?: { message: string } } | null
    if (request.status !== 200) return this.#fail(id, told?.problem?.message ?? away)
    const { replaces, done } = this.#waiting.get(id)!
    await this.store.catchUp()
    this.#forget(id)
    done(replaces ?? id)
  }

  #fail(id: string, message: string): void {
    this.#running.delete(id)
    this.#update(id, { state: 'failed', message })
    this.#next()
  }

  #forget(id: string): void {
    this.#running.delete(id)
    this.#waiting.delete(id)
    this.#show(this.#shown.filter((one) => one.id !== id))
    this.#next()
  }

  /** Tries again what failed; under its own id, so that it is added once. */
  retry(id: string): void {
    this.#update(id, { state: 'waiting', message: null })
    this.#next()
  }

  cancel(id: string): void {
    const waiting = this.#waiting.get(id)
    this.#running.get(id)?.abort()
    this.#forget(id)
    waiting?.done(null)
  }
}
