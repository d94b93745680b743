export interface Running {
  /** Resolves to why it ended, whoever ended it. */
  readonly ended: Promise<unknown>
  stop(): Promise<void>
}
export function keepRunning<T extends Running>(
  name: string,
  start: () => Promise<T>,
): Promise<{ readonly first: T; current(): T; stop(): Promise<void> }>
/** Starts one of our own programs and waits until it prints that it is ready. */
export function startChild(
  file: string,
  env: Readonly<Record<string, unknown>>,
  ready: RegExp,
): Promise<
  Running & {
    readonly child: {
      readonly pid?: number
      kill(signal: NodeJS.Signals): boolean
      once(event: 'exit', heard: () => void): unknown
    }
  }
>
