import { type Hash, mainSlot, slotOf } from '#core/site'
import type { ChangeRequest } from '#core/change'
import { mergeTexts } from '#core/texts'
import type { Keep } from './kept-work'
import type { SiteStore } from './site-store'
import { rememberText } from './use-text'

/** Which text of the site is written: a page's content, a template, a style sheet. */
export interface TextKey {
  readonly kind: 'content' | 'template' | 'file'
  readonly id: string
  /** Of a page's content: the slot, where that is not the one that every page is written in. */
  readonly slot?: string
}

/** A text that was typed here and that the server does not have yet. */
export interface TypedText {
  readonly text: string
  /** The version it was begun from. */
  readonly was: Hash
  readonly state:
    | 'typing'
    | 'sending'
    /** Another window wrote the same text: this one is kept until its author decides. */
    | 'conflict'
    /** The server does not take it as it is; the next letter asks again. */
    | 'refused'
}

const pauseMs = 250
/** Typing without a pause is sent as often as this. */
const longestMs = 2_000

const nameOf = ({ kind, id, slot }: TextKey) => `text ${kind} ${id}${slot === undefined ? '' : ` ${slot}`}`

/**
 * The texts being written in a window. They live here and not in what shows them: choosing another page
 * or view loses nothing, nor does closing the window, since each letter is kept as it is typed.
 */
export class WrittenTexts {
  readonly #texts = new Map<string, { key: TextKey; typed: TypedText }>()
  readonly #timers = new Map<string, { pause: ReturnType<typeof setTimeout>; since: number }>()
  readonly #listeners = new Set<() => void>()

  constructor(
    private readonly store: SiteStore,
    private readonly keep: Keep | null,
    /** A text of the site by its hash, to put together what two people wrote. */
    private readonly textOf: (hash: Hash) => Promise<string>,
  ) {}

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => void this.#listeners.delete(listener)
  }
  readonly get = (key: TextKey): TypedText | null => this.#texts.get(nameOf(key))?.typed ?? null

  #set(key: TextKey, typed: TypedText | null): void {
    const name = nameOf(key)
    if (typed) {
      this.#texts.set(name, { key, typed })
      this.keep?.put(name, { key, text: typed.text, was: typed.was })
    } else {
      this.#texts.delete(name)
      this.keep?.remove(name)
    }
    const isUndecided = typed?.state === 'conflict' || typed?.state === 'refused'
    this.store.noteUnsaved(name, typed !== null, isUndecided)
    for (const listener of this.#listeners) listener()
  }

  /** What the site holds of a text now; null when it is gone. */
  hashOf({ kind, id, slot = mainSlot }: TextKey): Hash | null {
    const { site } = this.store.get()
    if (kind === 'content') {
      const page = site.pages.find((one) => one.id === id)
      return page ? slotOf(page, slot) : null
    }
    if (kind === 'template') return site.templates.find((one) => one.id === id)?.source ?? null
    return site.files.find((file) => file.id === id)?.hash ?? null
  }

  /** A letter was typed. @param shown the version the text was, when nothing of it was typed before */
  write(key: TextKey, text: string, shown: Hash): void {
    const before = this.get(key)
    const state = before?.state === 'conflict' || before?.state === 'sending' ? before.state : 'typing'
    this.#set(key, { text, was: before?.was ?? shown, state })
    if (state === 'typing') this.#sendSoon(key)
  }

  #sendSoon(key: TextKey): void {
    const name = nameOf(key)
    const timer = this.#timers.get(name)
    if (timer) clearTimeout(timer.pause)
    const since = timer?.since ?? Date.now()
    const ms = Math.max(0, Math.min(pauseMs, since + longestMs - Date.now()))
    this.#timers.set(name, { since, pause: setTimeout(() => void this.#send(key), ms) })
  }

  async #send(key: TextKey): Promise<void> {
    const name = nameOf(key)
    clearTimeout(this.#timers.get(name)?.pause)
    this.#timers.delete(name)
    const sent = this.get(key)
    if (!sent || sent.state !== 'typing') return
    this.#set(key, { ...sent, state: 'sending' })
    const made = this.store.change(requestOf(key, sent))
    const saved = 'saved' in made && (await made.saved)
    const now = this.get(key)
    // Its author took the other version meanwhile.
    if (now?.state !== 'sending') return
    const hash = this.hashOf(key)
    if (!saved) {
      const isOther = hash !== null && hash !== sent.was
      // Shown where the text is, for as long as it takes: the notice at the top would say it twice.
      if (isOther) this.store.dismiss()
      if (isOther && (await this.#merge(key))) return
      const left = this.get(key)
      if (left) this.#set(key, { ...left, state: isOther ? 'conflict' : 'refused' })
    } else if (hash === null) this.#set(key, null)
    else {
      rememberText(hash, sent.text)
      if (now.text === sent.text) this.#set(key, null)
      else {
        this.#set(key, { ...now, was: hash, state: 'typing' })
        this.#sendSoon(key)
      }
    }
  }

  /**
   * Puts what is typed here together with what somebody else wrote meanwhile, where neither loses a word by it, and sends
   * the result.
   * @returns whether it could be done; otherwise both are shown
   */
  async #merge(key: TextKey): Promise<boolean> {
    const begun = this.get(key)
    const hash = this.hashOf(key)
    if (!begun || hash === null) return false
    const [base, theirs] = await Promise.all([this.textOf(begun.was), this.textOf(hash)]).catch(() => [])
    // What was typed while both were fetched is merged too.
    const now = this.get(key)
    if (base === undefined || theirs === undefined || !now || now.was !== begun.was) return false
    const text = mergeTexts(base, now.text, theirs)
    if (text === null) return false
    this.#set(key, { text, was: hash, state: 'typing' })
    this.#sendSoon(key)
    return true
  }

  /** Writes what is here over what the other window wrote. */
  useMine(key: TextKey): void {
    const typed = this.get(key)
    const hash = this.hashOf(key)
    if (!typed || hash === null) return
    this.#set(key, { ...typed, was: hash, state: 'typing' })
    void this.#send(key)
  }

  /** Lets go of what is here. */
  takeTheirs(key: TextKey): void {
    this.#set(key, null)
  }

  /** What a closed window left behind goes on here: sent when nobody wrote meanwhile, put together with what others wrote otherwise, or shown. */
  adopt(value: unknown): void {
    const { key, text, was } = value as { key: TextKey; text: string; was: Hash }
    if (this.get(key)) return
    const hash = this.hashOf(key)
    if (hash === null) return
    this.#set(key, { text, was, state: hash === was ? 'typing' : 'conflict' })
    if (hash === was) void this.#send(key)
    else void this.#merge(key)
  }

  /** Sends what was typed last without waiting for a pause: the window is about to go. */
  flush(): void {
    for (const { key } of [...this.#texts.values()]) void this.#send(key)
  }
}

/** What a window asks for to write a text. */
export function requestOf(
  { kind, id, slot }: TextKey,
  { text, was }: Pick<TypedText, 'text' | 'was'>,
): ChangeRequest {
  switch (kind) {
    case 'content':
      return { kind: 'setContent', pageId: id, ...(slot !== undefined && { slot }), text, was }
    case 'template':
      return { kind: 'setTemplate', templateId: id, text, was }
    case 'file':
      return { kind: 'setFile', fileId: id, text, was }
  }
}
