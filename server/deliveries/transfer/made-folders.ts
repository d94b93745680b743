import path from 'node:path'

/** Folders that a transport has made or found, each asked for once however many files want it at the same time. */
export class MadeFolders {
  readonly #known = new Map<string, Promise<void>>()

  /**
   * @param make finds a folder or makes it below the one it stands in, which it is given a way to make first
   * @param isThere whether a folder needs no looking after
   */
  constructor(
    private readonly make: (at: string, makeAbove: () => Promise<void>) => Promise<void>,
    private readonly isThere: (at: string) => boolean = () => false,
  ) {}

  /** Makes a folder and those above it. */
  want(at: string): Promise<void> {
    if (at === '.' || at === '/' || at === '' || this.isThere(at)) return Promise.resolve()
    let making = this.#known.get(at)
    if (!making) {
      making = this.make(at, () => this.want(path.posix.dirname(at)))
      this.#known.set(at, making)
      // One that failed may work the next time.
      making.catch(() => this.#known.delete(at))
    }
    return making
  }
}
