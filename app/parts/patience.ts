import { whenBack } from '../session/session'
import { isAnswered } from './away'
import { type Clock, clockOfWindow } from './clock'

/** Pauses before what was not answered is asked again; over when none is left. */
const retryMs = [1_000, 2_000, 4_000, 8_000, 15_000, 30_000]

/** Nobody answered, or nothing that can be read: asked again, it may be. */
export class Unreachable extends Error {
  /**
   * @param status of the answer; 0 for none
   * @param said why the server cannot do it now, where it says so
   */
  constructor(
    readonly status: number,
    readonly said: string | null = null,
  ) {
    super(String(status))
  }
}

/** The line to the server. */
export interface Line {
  /** Whether it answers anything at all. */
  readonly isAnswered: (signal: AbortSignal) => Promise<boolean>
  /** Calls back when it is there again, or whoever works here is signed in again; until the returned function is called. */
  readonly whenBack: (listener: () => void) => () => void
  readonly clock: Clock
}
const lineOfWindow: Line = { isAnswered, whenBack, clock: clockOfWindow }

/** Resolves after a while, or as soon as the line is back. */
const pausing = (ms: number, { clock, whenBack }: Line): Promise<void> =>
  new Promise((resolve) => {
    const go = () => {
      callOff()
      unsubscribe()
      resolve()
    }
    const callOff = clock.after(ms, go)
    const unsubscribe = whenBack(go)
  })

/**
 * How long something is asked again that was not answered. A line that is down says nothing of what is asked, nor does a
 * session that has ended: they are waited for, however long. What fails although the server answers is given up in the end.
 */
export class Patience {
  #failures = 0

  /** @param onPause told when it waits, and when it goes on */
  constructor(
    private readonly signal: AbortSignal,
    private readonly onPause: (isPausing: boolean) => void = () => {},
    private readonly line: Line = lineOfWindow,
  ) {}

  /** Some of it got through: what fails from here on is something new. */
  gained(): void {
    this.#failures = 0
  }

  /** Counts a failure that needs no waiting for. @returns whether it is worth asking again */
  count(): boolean {
    return ++this.#failures <= retryMs.length
  }

  /** Waits before it is asked again. @returns whether that is worth it */
  async waits(error: unknown): Promise<boolean> {
    const status = error instanceof Unreachable ? error.status : 0
    const isDown = status === 401 || (status === 0 && !(await this.line.isAnswered(this.signal)))
    if (this.signal.aborted) return false
    this.#failures = isDown ? Math.min(this.#failures + 1, retryMs.length) : this.#failures + 1
    const ms = retryMs[this.#failures - 1]
    if (ms === undefined) return false
    this.onPause(true)
    await pausing(ms, this.line)
    this.onPause(false)
    return true
  }
}

/** Does something again until it is answered; @throws what it fails with when that is something else, or for too long */
export async function patiently<T>(
  work: () => Promise<T>,
  signal: AbortSignal,
  onPause?: (isPausing: boolean) => void,
): Promise<T> {
  const patience = new Patience(signal, onPause)
  for (;;)
    try {
      return await work()
    } catch (error) {
      if (signal.aborted || !(error instanceof Unreachable) || !(await patience.waits(error))) throw error
    }
}
