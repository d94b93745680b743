import type { Clock } from './clock'

/** A clock for tests: it goes on when it is told to, with all that is due by then. */
export class ClockByHand implements Clock {
  #now = 0
  #due: { readonly at: number; readonly run: () => void }[] = []

  readonly now = () => this.#now
  readonly after = (ms: number, run: () => void) => {
    const one = { at: this.#now + ms, run }
    this.#due.push(one)
    return () => void (this.#due = this.#due.filter((other) => other !== one))
  }

  /** Lets time pass; what is due may wait for promises between. */
  async pass(ms: number): Promise<void> {
    const end = this.#now + ms
    for (;;) {
      const [next] = this.#due.filter(({ at }) => at <= end).sort((one, other) => one.at - other.at)
      if (!next) break
      this.#due = this.#due.filter((one) => one !== next)
      this.#now = next.at
      next.run()
      for (let turns = 0; turns < 5; turns++) await Promise.resolve()
    }
    this.#now = end
  }
}
