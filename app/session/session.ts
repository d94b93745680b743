import deepEqual from 'fast-deep-equal'
import { type Clock, clockOfWindow } from '../parts/clock'
import { inNameOf } from './header'

/** How a window stands with the account that it works for. */
export type Standing =
  | { readonly kind: 'in' }
  /** Signed out elsewhere, or too long ago. */
  | { readonly kind: 'out' }
  /** Somebody has signed in beside it as this account, by its address. */
  | { readonly kind: 'other'; readonly email: string }

/** Whose cookie the browser has. */
export interface Whose {
  readonly accountId: string | null
  readonly email: string | null
}

/** While it has ended the window asks this often whether it goes on. */
const askEveryMs = 3_000

/** Asks the server whose cookie the browser has; null where it does not say. */
async function askWhose(): Promise<Whose | null> {
  const response = await fetch('/session', { cache: 'no-store' })
  return response.ok ? ((await response.json()) as Whose) : null
}

/**
 * The session of a window: in whose name it asks, and whether it still may. One that has ended takes nothing away: the
 * window stays as it is with all that is typed in it, says so, and goes on as soon as its account is signed in again.
 */
export class Session {
  #accountId: string | null = null
  #standing: Standing = { kind: 'in' }
  #callOff = () => {}
  readonly #listeners = new Set<() => void>()

  constructor(
    private readonly whose: () => Promise<Whose | null> = askWhose,
    private readonly clock: Clock = clockOfWindow,
  ) {}

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => void this.#listeners.delete(listener)
  }
  readonly get = (): Standing => this.#standing

  /** From now on the window asks in this account's name. A document is one account's: another is loaded anew. */
  begin(accountId: string): void {
    this.#accountId = accountId
  }

  /** What every request says of it. */
  get headers(): Readonly<Record<string, string>> {
    return this.#accountId === null ? {} : { [inNameOf]: this.#accountId }
  }

  /** A request was answered so: where nobody is signed in any more, or somebody else, the session has ended. */
  note(status: number): void {
    if (status !== 401 || this.#accountId === null || this.#standing.kind !== 'in') return
    this.#stand({ kind: 'out' })
    void this.check()
  }

  /** Asks whose cookie the browser has; again and again while it is not this window's account's. */
  readonly check = async (): Promise<void> => {
    if (this.#accountId === null) return
    this.#callOff()
    // Without a line nobody can tell: the next time does.
    const told = await this.whose().catch(() => null)
    if (told?.accountId === this.#accountId) this.#stand({ kind: 'in' })
    else if (told && told.accountId !== null) this.#stand({ kind: 'other', email: told.email ?? '' })
    else if (told) this.#stand({ kind: 'out' })
    this.#callOff()
    if (this.#standing.kind !== 'in') this.#callOff = this.clock.after(askEveryMs, () => void this.check())
  }

  #stand(standing: Standing): void {
    if (deepEqual(this.#standing, standing)) return
    this.#standing = standing
    for (const listener of [...this.#listeners]) listener()
  }
}

/** This window's. */
export const session = new Session()

/**
 * `fetch` that says in whose name this server is asked, and hears where it may not be any more. It stands in the place of the
 * window's own, since the router asks with that as well: nothing is shown, and nothing done, in somebody else's name.
 */
export const inItsName =
  (bare: typeof fetch, whose: Session, origin: string): typeof fetch =>
  async (input, init) => {
    const request = new Request(input, init)
    if (!request.url.startsWith(`${origin}/`)) return bare(request)
    for (const [name, value] of Object.entries(whose.headers)) request.headers.set(name, value)
    const response = await bare(request)
    whose.note(response.status)
    return response
  }

/** Calls back whenever the line is back, or whoever works here is signed in again; until the returned function is called. */
export function whenBack(listener: () => void): () => void {
  const heard = () => {
    if (session.get().kind === 'in') listener()
  }
  const unsubscribe = session.subscribe(heard)
  addEventListener('online', listener)
  return () => {
    unsubscribe()
    removeEventListener('online', listener)
  }
}
