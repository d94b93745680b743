/** Work that is asked for more often than it has to be done: it runs once at a time, and once more for all who asked meanwhile. */
export interface OneAtATime {
  /** Resolves when a run has ended that began after this call. */
  (): Promise<void>
  /** The end of the run under way; null while there is none. */
  readonly underWay: Promise<void> | null
}

export function oneAtATime(work: () => Promise<void>): OneAtATime {
  let underWay: Promise<void> | null = null
  let next: Promise<void> | null = null
  const begin = () => {
    next = null
    return (underWay = work().finally(() => (underWay = null)))
  }
  const run = () => (underWay ? (next ??= underWay.then(begin, begin)) : begin())
  return Object.defineProperty(run, 'underWay', { get: () => underWay }) as OneAtATime
}
