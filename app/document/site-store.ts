import deepEqual from 'fast-deep-equal'
import { type ChangeRequest, edit, type Refusal, rightFor, shownOf } from '#core/change'
import { sentenceOf } from '#core/problems'
import { applyDiffs, mayRole, type Right, type Role, type Site } from '#core/site'
import type { Saved } from '#server/sites'
import type { Keep } from './kept-work'
import { Lull } from './lull'
import { oneAtATime } from './one-at-a-time'
import { asJson, isJson, post } from './post'
import type { RefusedChange, SiteState } from './site-state'
import type { Waiting, WaitingForAnswer } from './waiting'

const retryMs = [500, 1_000, 2_000, 3_000]
/** What browsers let a page that is going away send (Fetch §4.6, "keepalive"). */
const mostOnLeaving = 60_000

/**
 * One window's copy of a site. Changes show at once and are sent one after another; the server's
 * answer is a list of differences, its own and those of other windows, applied in order.
 */
export class SiteStore {
  #confirmed: Site
  #revision: number
  #state: SiteState
  readonly #waiting: Waiting[] = []
  readonly #asked: WaitingForAnswer[] = []
  #questions = 0
  readonly #listeners = new Set<() => void>()
  /** Texts and lines that are typed and not saved, by name. */
  readonly #unsaved = new Set<string>()
  /** Those among them that are not being sent: their author has to decide first. */
  readonly #undecided = new Set<string>()
  readonly #lines = new Map<string, ChangeRequest>()
  #isKept = true
  /** Until all that waits has been answered; null while nothing is on its way. */
  #sending: Promise<void> | null = null
  #failures = 0
  readonly #lull = new Lull((settled) => this.#set({ settled }))
  /** Ends the pause before the next attempt. */
  #wake = () => {}

  constructor(
    site: Site,
    revision: number,
    titles: { undo: string | null; redo: string | null },
    private readonly keep: Keep | null,
    role: Role = 'owner',
  ) {
    this.#confirmed = site
    this.#revision = revision
    this.#state = {
      role,
      site,
      revision,
      settled: revision,
      ...titles,
      save: { kind: 'saved', at: null },
      refused: null,
      asked: null,
      ripple: null,
    }
  }

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => void this.#listeners.delete(listener)
  }
  readonly get = () => this.#state
  /** The site as the server has it. */
  get confirmed(): Site {
    return this.#confirmed
  }

  #set(part: Partial<SiteState>): void {
    this.#state = { ...this.#state, ...part }
    for (const listener of this.#listeners) listener()
  }

  /** Makes again what a window that is gone had not got through. */
  adopt(name: string, value: unknown): void {
    if (name.startsWith('line ')) void this.change(value as ChangeRequest)
    else if (name === 'waiting')
      for (const { id, change } of value as { id: string; change: ChangeRequest }[])
        this.#make(change, false, id)
  }

  #keepWaiting(): void {
    const shown = this.#asked.filter((one) => one.isShown).map(({ change }) => ({ id: newId(), change }))
    const changes = [
      ...shown,
      ...this.#waiting.flatMap(({ id, body }) => (body.do === 'change' ? [{ id, change: body.change }] : [])),
    ]
    if (changes.length > 0) this.#isKept = this.keep?.put('waiting', changes) ?? false
    else {
      this.#isKept = true
      this.keep?.remove('waiting')
    }
  }

  /** Says whether something that is typed has still to be sent, and whether that waits for its author. */
  noteUnsaved(name: string, isUnsaved: boolean, isUndecided = false): void {
    const had = this.#unsaved.size
    const wasUndecided = this.#undecided.has(name)
    if (isUndecided) this.#undecided.add(name)
    else this.#undecided.delete(name)
    if (isUnsaved) this.#unsaved.add(name)
    else this.#unsaved.delete(name)
    if (had > 0 !== this.#unsaved.size > 0 || wasUndecided !== isUndecided) this.#settle()
  }

  /** Keeps what a line being typed will become; null when it has been left or given up. */
  noteLine(name: string, change: ChangeRequest | null): void {
    if (change) {
      this.#lines.set(name, change)
      this.keep?.put(`line ${name}`, change)
    } else if (this.#lines.delete(name)) this.keep?.remove(`line ${name}`)
    this.noteUnsaved(`line ${name}`, change !== null)
  }

  /** A line goes away: what was typed in it is made. */
  finishLine(name: string): void {
    const change = this.#lines.get(name)
    this.noteLine(name, null)
    if (change) void this.change(change)
  }

  /** The window may be going: lines are taken as they are, and what waits is sent without being waited for. */
  leave(): void {
    for (const name of [...this.#lines.keys()]) this.finishLine(name)
    // What is on its way is the first of those that wait; the rest would have been sent after its answer.
    let size = 0
    for (const { id, body } of this.#waiting.slice(this.#sending ? 1 : 0)) {
      const text = JSON.stringify({ ...body, id, seen: this.#revision })
      size += text.length
      if (size > mostOnLeaving) break
      void fetch(this.#address, { method: 'POST', headers: asJson, body: text, keepalive: true }).catch(
        () => {},
      )
    }
  }

  /** The connection may be back: what waits is sent at once. */
  wake(): void {
    this.#wake()
  }

  get #address() {
    return `/sites/${this.#confirmed.id}/changes`
  }

  /**
   * Makes a change here at once, or says why not; resolves when the server has it.
   * @param shown whether its author has seen what it touches; one that touches what is written
   *   or out in the world is asked about otherwise, and is not stored before the answer
   * @param actId what it is made together with, and taken back with
   */
  change(
    request: ChangeRequest,
    shown = false,
    actId?: string,
  ): { refusal: Refusal } | { saved: Promise<boolean> } {
    return this.#make(request, shown, newId(), actId)
  }

  #make(
    request: ChangeRequest,
    shown: boolean,
    id: string,
    actId?: string,
  ): { refusal: Refusal } | { saved: Promise<boolean> } {
    const kept = this.#keptFrom(request)
    if (kept) return kept
    const change = shownOf(request)
    if (change) {
      const edited = edit(this.#state.site, change)
      if ('refusal' in edited) {
        this.#set({ refused: this.#refusedBy(request, edited.refusal) })
        return edited
      }
      this.#set({ site: edited.site, refused: null })
    }
    return { saved: this.#enqueue({ do: 'change', change: request, shown, actId }, id) }
  }

  /** Whether its author may do this with the site. */
  may(right: Right): boolean {
    return mayRole(this.#state.role, right)
  }

  /** Refuses at once what the server would refuse somebody of this role. */
  #keptFrom(request: ChangeRequest): { refusal: Refusal } | null {
    const right = rightFor(request, this.#state.site)
    if (this.may(right)) return null
    const refusal = { reason: 'invalid', message: sentenceOf('no-right', { right }) } as const
    this.#set({ refused: this.#refusedBy(request, refusal) })
    return { refusal }
  }

  /** Has a change asked about before anything of it shows; one that cannot be made is refused at once. */
  ask(request: ChangeRequest): void {
    // A key pressed twice asks once.
    if (this.#asked.some(({ change }) => deepEqual(change, request))) return
    if (this.#keptFrom(request)) return
    const change = shownOf(request)
    const edited = change && edit(this.#state.site, change)
    if (edited && 'refusal' in edited) this.#set({ refused: this.#refusedBy(request, edited.refusal) })
    else this.#ask({ change: request, ripple: null, isShown: false, done: () => {} })
  }

  /** The answer to what is asked: makes the change, or leaves all as it was. */
  answer(yes: boolean): void {
    const asked = this.#asked.shift()
    if (!asked) return
    this.#keepWaiting()
    this.#set({ asked: this.#asked[0] ?? null })
    if (asked.isShown) this.#show()
    if (!yes) asked.done(false)
    else {
      const made = this.change(asked.change, true, asked.actId)
      if ('refusal' in made) asked.done(false)
      else void made.saved.then(asked.done)
    }
  }

  #ask(asked: Omit<WaitingForAnswer, 'id'>): void {
    this.#asked.push({ ...asked, id: ++this.#questions })
    this.#keepWaiting()
    this.#set({ asked: this.#asked[0]! })
  }

  undo = async () => {
    // What shows but is not stored yet is the latest that was done.
    if (this.#state.asked?.isShown) return this.answer(false)
    await this.#enqueue({ do: 'undo' })
  }
  redo = () => this.#enqueue({ do: 'redo' })
  /** Says why something that was tried in the window is no change. */
  refuse = (message: string) => this.#set({ refused: this.#refusedBy(null, { reason: 'invalid', message }) })
  dismiss = () => this.#set({ refused: null })
  dismissRipple = () => this.#set({ ripple: null })

  #refusedBy(change: ChangeRequest | null, refusal: Refusal): RefusedChange {
    return {
      change,
      code: refusal.reason,
      message: refusal.message,
      now: 'now' in refusal ? refusal.now : null,
    }
  }

  #enqueue(body: Waiting['body'], id = newId()): Promise<boolean> {
    return new Promise((done) => {
      this.#waiting.push({ id, body, done })
      this.#keepWaiting()
      this.#set({ save: { kind: 'saving' } })
      this.#sending ??= this.#send()
    })
  }

  async #send(): Promise<void> {
    try {
      for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
        const answer = await post(this.#address, { ...next.body, id: next.id, seen: this.#revision })
        if ('unreachable' in answer) {
          this.#set({ save: { kind: 'offline', waiting: this.#waiting.length, reason: answer.unreachable } })
          const pause = retryMs[Math.min(this.#failures++, retryMs.length - 1)]!
          await new Promise<void>((resolve) => {
            const timer = setTimeout(resolve, pause)
            this.#wake = () => {
              clearTimeout(timer)
              resolve()
            }
          })
          continue
        }
        this.#failures = 0
        this.#waiting.shift()
        this.#keepWaiting()
        if ('problem' in answer) {
          const { code, message, detail } = answer.problem
          const change = next.body.do === 'change' ? next.body.change : null
          if (code === 'ask-first' && next.body.do === 'change') {
            const { change, actId } = next.body
            this.#ask({ change, actId, ripple: detail?.ripple ?? null, isShown: true, done: next.done })
            continue
          }
          this.#set({ refused: { change, code, message, now: detail?.now ?? null } })
          // What was refused no longer shows, whether what others did can be fetched now or not.
          this.#show()
          await this.#refresh()
          next.done(false)
        } else {
          this.#take(answer)
          this.#set({ ripple: answer.ripple })
          next.done(true)
        }
      }
    } finally {
      this.#sending = null
      this.#settle()
    }
    // Heard of while it was sending: what others made since is fetched now.
    if (this.#heard > this.#revision) await this.#refresh()
  }

  /** Says how the window stands with the server once nothing is on its way. */
  #settle(): void {
    if (this.#waiting.length > 0 || this.#sending) return
    if (this.#unsaved.size > 0) {
      const isSending = this.#unsaved.size > this.#undecided.size
      const kind = this.#lines.size > 0 ? 'typing' : isSending ? 'saving' : 'undecided'
      this.#set({ save: { kind } })
    } else if (this.#state.save.kind !== 'saved')
      this.#set({ save: { kind: 'saved', at: new Date().toISOString() } })
  }

  /** Applies what the server sent, and puts the changes still waiting on top again. */
  #take(saved: Saved): void {
    // Two answers can overlap: one of them then tells what is known already.
    const missing = saved.diffs.slice(Math.max(0, saved.diffs.length - (saved.revision - this.#revision)))
    if (saved.revision > this.#revision) {
      const site = applyDiffs(this.#confirmed, missing)
      // Out of step with the server, the only safe thing is to read everything again.
      if (!site) {
        location.reload()
        return
      }
      this.#confirmed = site
      this.#revision = saved.revision
    }
    const isNews = this.#revision > this.#state.revision
    this.#set({ revision: this.#revision, undo: saved.undo, redo: saved.redo })
    this.#show()
    if (isNews) this.#lull.note(this.#revision)
  }

  /** Shows what the server has, with all on top that it does not have yet. */
  #show(): void {
    let site = this.#confirmed
    const put = (request: ChangeRequest) => {
      const change = shownOf(request)
      const edited = change && edit(site, change)
      if (edited && 'site' in edited) site = edited.site
    }
    for (const { change, isShown } of this.#asked) if (isShown) put(change)
    for (const { body } of this.#waiting) if (body.do === 'change') put(body.change)
    // As a rule the server confirms what shows already: nothing has to be computed or drawn again.
    if (!deepEqual(site, this.#state.site)) this.#set({ site })
  }

  /** Makes every name again: how some letters are spelled has only just come to be known. */
  nameAgain(): void {
    // Names are kept with the scheme they were made by.
    const renewed = (site: Site): Site => ({ ...site, scheme: { ...site.scheme } })
    this.#confirmed = renewed(this.#confirmed)
    this.#set({ site: renewed(this.#state.site) })
  }

  /** Fetches what others made; a hundred photographs that come one by one ask for it much oftener than it takes. */
  readonly #refresh = oneAtATime(async () => {
    try {
      const response = await fetch(`/sites/${this.#confirmed.id}/changes?seen=${this.#revision}`)
      if (response.ok && isJson(response)) this.#take((await response.json()) as Saved)
    } catch {
      // The next event or change brings it.
    }
  })

  #heard = 0

  /** Fetches what may have happened unheard; what is on its way first, which may have been answered before it did. */
  async catchUp(): Promise<void> {
    await this.#sending
    await this.#refresh()
  }

  /** Another window or process has made a revision. */
  async heard(revision: number): Promise<void> {
    this.#heard = Math.max(this.#heard, revision)
    // What is being fetched may bring it.
    while (this.#refresh.underWay && revision > this.#revision) await this.#refresh.underWay
    if (revision <= this.#revision || this.#sending) return
    await this.#refresh()
  }

  /** Whether something typed here has not reached the server yet. */
  get hasWaiting(): boolean {
    return this.#waiting.length > 0 || this.#unsaved.size > 0 || this.#asked.some((one) => one.isShown)
  }

  /** Whether what is typed would be lost with the window: nothing keeps it. */
  get wouldLose(): boolean {
    return this.hasWaiting && !this.#isKept
  }
}

const newId = (): string => crypto.randomUUID()
