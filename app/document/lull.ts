import { type Clock, clockOfWindow } from '../parts/clock'

/** So many in so short a time are a stream: somebody adds a hundred photographs, or takes many steps back. */
const manyInARow = 8
const streamMs = 2_000
/** A stream is over, or pauses, when nothing has come for this long; */
const lullMs = 400
/** and while it goes on, this is how often it is told of all the same. */
const atLeastEveryMs = 3_000

/**
 * Tells of each revision at once, and of a stream of them in its lulls: what is asked of the server anew for each (the preview,
 * the findings, where files are used) would otherwise take more of it than the stream itself.
 */
export class Lull {
  #came: readonly number[] = []
  #toldAt = -Infinity
  #callOff = () => {}

  constructor(
    private readonly tell: (revision: number) => void,
    private readonly clock: Clock = clockOfWindow,
  ) {}

  note(revision: number): void {
    this.#callOff()
    const now = this.clock.now()
    this.#came = [...this.#came, now].slice(-manyInARow)
    if (this.#came.length < manyInARow || now - this.#came[0]! > streamMs) return this.#say(revision)
    const wait = Math.max(0, Math.min(lullMs, this.#toldAt + atLeastEveryMs - now))
    this.#callOff = this.clock.after(wait, () => this.#say(revision))
  }

  #say(revision: number): void {
    this.#toldAt = this.clock.now()
    this.tell(revision)
  }
}
