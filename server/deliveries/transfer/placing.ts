import { asideName, TransferError } from './transport'

/** What a host can do with files, asked for one by one; each rejects with a `TransferError`. */
export interface Mover {
  readonly move: (from: string, to: string) => Promise<void>
  readonly unlink: (at: string) => Promise<void>
  /** Whether something is there. */
  readonly isThere: (at: string) => Promise<boolean>
  /** Whether the connection can still be used. */
  readonly isOpen: () => boolean
  /** Renames onto a file that is there in one step, where the protocol has a way of its own for that. */
  readonly replace?: (from: string, to: string) => Promise<void>
}

/** Puts written files in place, whatever a host makes of renaming onto a file that is there. */
export class Placing {
  #replaces: boolean | undefined

  /** @param replaces what is known of the host already */
  constructor(
    private readonly host: Mover,
    private readonly mark: string,
    replaces: boolean | undefined,
  ) {
    this.#replaces = replaces
  }

  /** Whether renaming onto a file that is there replaces it; found out once. */
  get replaces(): boolean | undefined {
    return this.#replaces
  }

  /**
   * Gives a written file its name, in the place of whatever has it.
   * @param first how it is moved where that is all there is to do
   */
  async place(from: string, to: string, first = this.host.move): Promise<void> {
    const { replace, isOpen, isThere } = this.host
    if (this.#replaces !== false && replace) {
      try {
        return await replace(from, to)
      } catch (error) {
        if (!isOpen()) throw error
      }
    }
    try {
      await first(from, to)
    } catch (error) {
      if (!(error instanceof TransferError) || error.code !== 'host-refused') throw error
      // Many servers do not rename onto a file that is there; nothing else may be wrong with it.
      if (!(await isThere(to))) throw error
      this.#replaces = false
      await this.#inItsPlace(from, to)
    }
  }

  /** In the place of a file that stepped aside; put back when the new one cannot take its place. */
  async #inItsPlace(from: string, to: string): Promise<void> {
    const { move, unlink, isOpen } = this.host
    const aside = asideName(to, this.mark)
    await move(to, aside).catch(async () => {
      // One left from a cut, beside the file that took its place.
      await unlink(aside)
      await move(to, aside)
    })
    try {
      await move(from, to)
    } catch (error) {
      // Where even that fails, or the line is cut, the next run's `mend` puts it back.
      if (isOpen()) await move(aside, to).catch(() => {})
      throw error
    }
    await unlink(aside)
  }
}
