export interface Running {
  /** Resolves to why it ended, whoever ended it. */
  readonly ended: Promise<unknown>
  stop(): Promise<void>
}
export function keepRunning<T extends Running>(
  name: string,
  start: () => Promise<T>,
): Promise<{ readonly first: T; current(): T; stop(): Promise<void> }>
