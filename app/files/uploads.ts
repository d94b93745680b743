import { Problem } from '#core/problems'
import { mostFileBytes } from '#core/site'
import type { SiteStore } from '../document/site-store'
import { dropSent, isSentInPortions, sendFile } from '../parts/send-file'
import { inShownForm, otherFormOf } from './shown-form'

/** A file on its way to the site. */
export interface Upload {
  readonly id: string
  readonly name: string
  readonly sizeBytes: number
  readonly sentBytes: number
  /** `making`: it becomes a picture that every browser shows. `pausing`: the line is down, and it goes on by itself. */
  readonly state: 'making' | 'waiting' | 'sending' | 'pausing' | 'failed'
  /** Why it failed. */
  readonly message: string | null
  /** Whether there is nothing to try again: it could not even be read. */
  readonly isRefused?: boolean
}

/** What a window sends, since the last time that it had nothing to send. */
export interface OnTheirWay {
  readonly uploads: readonly Upload[]
  /** Those that have arrived meanwhile. */
  readonly arrived: { readonly count: number; readonly bytes: number }
}

/** How a file is taken. */
export interface SendOptions {
  /** The file whose place it takes. */
  readonly replaces?: string | null
  /** What it is added together with, and taken back with. */
  readonly actId?: string
  /** Calls it off. */
  readonly signal?: AbortSignal
}

interface Waiting extends SendOptions {
  readonly file: Blob
  readonly name: string
  readonly done: (fileId: string | null) => void
}

const nothing = () => {}
const noneArrived: OnTheirWay['arrived'] = { count: 0, bytes: 0 }

/** A file of which nothing was sent yet. */
const fresh = (id: string, name: string, sizeBytes: number): Upload => ({
  id,
  name,
  sizeBytes,
  sentBytes: 0,
  state: 'waiting',
  message: null,
})

/** Files sent at the same time: more would only share the line. */
const atOnce = 3

/** Ids of large files that were begun, by what tells a file from others: brought again, they are gone on with. */
class Begun {
  constructor(private readonly siteId: string) {}

  #read(): Record<string, string> {
    try {
      return JSON.parse(localStorage.getItem(this.#key) ?? '{}') as Record<string, string>
    } catch {
      return {}
    }
  }
  get #key() {
    return `rubricant uploads ${this.siteId}`
  }
  #write(begun: Record<string, string>): void {
    try {
      if (Object.keys(begun).length === 0) localStorage.removeItem(this.#key)
      else localStorage.setItem(this.#key, JSON.stringify(begun))
    } catch {
      // No room to remember it: brought again, it is sent from its beginning.
    }
  }

  /** The id of a file: the one under which it was begun before, if it was and is not under way. */
  idOf(file: Blob, name: string, isUnderWay: (id: string) => boolean): string {
    const id = crypto.randomUUID()
    if (!isSentInPortions(file)) return id
    const changed = file instanceof File ? file.lastModified : 0
    const mark = `${name} ${file.size} ${changed}`
    const begun = this.#read()
    const known = begun[mark]
    if (known && !isUnderWay(known)) return known
    this.#write({ ...begun, [mark]: id })
    return id
  }

  end(id: string): void {
    const begun = this.#read()
    this.#write(Object.fromEntries(Object.entries(begun).filter(([, one]) => one !== id)))
  }
}

/** The files that a window is sending, with their progress; each can be called off, and tried again. */
export class Uploads {
  #shown: readonly Upload[] = []
  #state: OnTheirWay = { uploads: [], arrived: noneArrived }
  readonly #waiting = new Map<string, Waiting>()
  readonly #running = new Map<string, AbortController>()
  readonly #making = new Map<string, AbortController>()
  /** A picture takes the memory of all its pixels while it is made. */
  #lastMade: Promise<void> = Promise.resolve()
  readonly #listeners = new Set<() => void>()
  readonly #begun: Begun
  /** Called off while they were being sent. */
  readonly #calledOff = new Set<string>()
  #unwatch = nothing
  /** Whether photographs go on saying where they were taken. */
  keepsPlace = false

  constructor(
    private readonly siteId: string,
    private readonly store: SiteStore,
  ) {
    this.#begun = new Begun(siteId)
  }

  /** A window that is closed would lose what it is sending; of another site it may be sending still. */
  readonly #warn = (event: BeforeUnloadEvent) => event.preventDefault()

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => void this.#listeners.delete(listener)
  }
  readonly get = () => this.#state

  #show(shown: readonly Upload[], arrived = this.#state.arrived): void {
    this.#shown = shown
    const isUnderWay = shown.some(({ state }) => state !== 'failed')
    this.#state = { uploads: shown, arrived: isUnderWay ? arrived : noneArrived }
    if (isUnderWay) addEventListener('beforeunload', this.#warn)
    else removeEventListener('beforeunload', this.#warn)
    for (const listener of this.#listeners) listener()
  }

  #update(id: string, part: Partial<Upload>): void {
    this.#show(this.#shown.map((one) => (one.id === id ? { ...one, ...part } : one)))
  }

  /**
   * Sends a file; resolves to the id of the file of the site, or null when it was called off.
   */
  send(file: Blob, name: string, options: SendOptions = {}): Promise<string | null> {
    // Nobody waits for most of it to be sent first.
    if (file.size > mostFileBytes) {
      this.refuse(name, new Problem('file-too-large', { most: '200 MB' }).message)
      return Promise.resolve(null)
    }
    if (options.signal?.aborted) return Promise.resolve(null)
    const id = this.#begun.idOf(file, name, (one) => this.#waiting.has(one))
    options.signal?.addEventListener('abort', () => this.cancel(id), { once: true })
    return new Promise((done) => {
      this.#waiting.set(id, { ...options, file, name, done })
      this.#show([...this.#shown, fresh(id, name, file.size)])
      this.#next()
    })
  }

  /** Shows what is not sent at all, and why. */
  refuse(name: string, message: string): void {
    const id = crypto.randomUUID()
    this.#show([...this.#shown, { ...fresh(id, name, 0), state: 'failed', message, isRefused: true }])
  }

  /**
   * A picture in a form that few browsers show becomes one that all do, one after the other; any other file stays as it is, as
   * does one that cannot be read. Null when it was called off.
   */
  async shown(file: File): Promise<File | null> {
    const form = await otherFormOf(file)
    if (!form) return file
    const id = crypto.randomUUID()
    const ending = new AbortController()
    this.#making.set(id, ending)
    this.#show([...this.#shown, { ...fresh(id, file.name, file.size), state: 'making' }])
    const turn = this.#lastMade.then(() =>
      ending.signal.aborted ? null : inShownForm(file, form, ending.signal),
    )
    this.#lastMade = turn.then(nothing, nothing)
    const made = await turn.catch(() => null)
    this.#making.delete(id)
    this.#show(this.#shown.filter((one) => one.id !== id))
    return ending.signal.aborted ? null : (made ?? file)
  }

  #portionsAt(id: string): string {
    return `/sites/${this.siteId}/uploads/${id}`
  }

  /** Begins what waits, as many as may run. */
  #next(): void {
    for (const { id, state } of this.#shown) {
      if (this.#running.size >= atOnce) return
      if (state === 'waiting' && !this.#running.has(id)) void this.#begin(id)
    }
  }

  async #begin(id: string): Promise<void> {
    const ending = new AbortController()
    this.#running.set(id, ending)
    this.#update(id, { state: 'sending', message: null })
    const waiting = this.#waiting.get(id)!
    const { file, name, replaces, actId, done } = waiting
    const query = {
      id,
      name,
      seen: String(this.store.get().revision),
      ...(replaces && { replaces }),
      ...(actId !== undefined && { actId }),
      ...(this.keepsPlace && { keepsPlace: 'true' }),
    }
    const told = await sendFile<{ readonly fileId?: string }>(
      { file, at: `/sites/${this.siteId}/files`, query, portionsAt: this.#portionsAt(id) },
      ending.signal,
      {
        onSent: (sentBytes) => this.#update(id, { sentBytes }),
        onPause: (isPausing) => this.#update(id, { state: isPausing ? 'pausing' : 'sending' }),
      },
    )
    if (ending.signal.aborted) return
    if ('problem' in told) {
      this.#running.delete(id)
      this.#update(id, { state: 'failed', message: told.problem })
      this.#next()
      return
    }
    // There it cannot be called off any more; the next need not wait for the window to hear of it.
    this.#running.delete(id)
    this.#waiting.delete(id)
    this.#next()
    await this.store.catchUp()
    // The site had it already, and has it no more: it was being taken out.
    const fileId = told.fileId ?? id
    if (fileId !== id && !this.store.get().site.files.some((file) => file.id === fileId)) {
      this.#waiting.set(id, waiting)
      this.#update(id, { state: 'waiting', sentBytes: 0 })
      return this.#next()
    }
    this.#forget(id, true)
    done(fileId)
  }

  #forget(id: string, hasArrived = false): void {
    this.#begun.end(id)
    this.#running.delete(id)
    this.#waiting.delete(id)
    const { count, bytes } = this.#state.arrived
    const sizeBytes = this.#shown.find((one) => one.id === id)?.sizeBytes ?? 0
    this.#show(
      this.#shown.filter((one) => one.id !== id),
      hasArrived ? { count: count + 1, bytes: bytes + sizeBytes } : undefined,
    )
    this.#next()
  }

  /** All of it may be at the server already: where it stands in the site, or comes to, it is taken out again. */
  #watchFor(id: string): void {
    const takeOut = () => {
      const { files } = this.store.get().site
      const fileIds = files.flatMap((file) => (this.#calledOff.delete(file.id) ? [file.id] : []))
      if (this.#calledOff.size === 0) this.#unwatch()
      if (fileIds.length > 0) this.store.change({ kind: 'removeFiles', fileIds })
    }
    if (this.#calledOff.size === 0) this.#unwatch = this.store.subscribe(takeOut)
    this.#calledOff.add(id)
    takeOut()
  }

  /** Tries again what failed; under its own id, so that it is added once. */
  retry(id: string): void {
    this.#update(id, { state: 'waiting', message: null })
    this.#next()
  }

  retryAll(): void {
    for (const { id, state, isRefused } of this.#shown) if (state === 'failed' && !isRefused) this.retry(id)
  }

  cancelAll(): void {
    // From the end: none of those that wait is begun meanwhile.
    for (const { id } of [...this.#shown].reverse()) this.cancel(id)
  }

  cancel(id: string): void {
    const waiting = this.#waiting.get(id)
    const making = this.#making.get(id)
    if (making) return making.abort()
    const isThere = !waiting && this.#shown.some((one) => one.id === id && one.state === 'sending')
    if (isThere) return
    if (this.#running.has(id)) this.#watchFor(id)
    this.#running.get(id)?.abort()
    if (waiting && isSentInPortions(waiting.file)) dropSent(this.#portionsAt(id))
    this.#forget(id)
    waiting?.done(null)
  }
}
