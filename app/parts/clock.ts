/** What tells the time and lets it pass; another in tests. */
export interface Clock {
  /** In milliseconds. */
  readonly now: () => number
  /** Runs something later. @returns what calls it off */
  readonly after: (ms: number, run: () => void) => () => void
}

export const clockOfWindow: Clock = {
  now: () => performance.now(),
  after(ms, run) {
    const timer = setTimeout(run, ms)
    return () => clearTimeout(timer)
  },
}
