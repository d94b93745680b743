import type { HostTraits } from '#core/delivery'

/** Less than this is the way there and back, and a clock that nobody minds. */
const nearSeconds = 120

const ourSeconds = () => Math.floor(Date.now() / 1_000)

/** What a transport knows of its host: what was known before, and what it showed since. */
export class LearnedTraits {
  #traits: HostTraits

  constructor(known: HostTraits | undefined) {
    this.#traits = known ?? {}
  }

  get all(): HostTraits {
    return this.#traits
  }

  learn(traits: HostTraits): void {
    this.#traits = { ...this.#traits, ...traits }
  }

  /**
   * Hears the time that the host gave to what it was sent this moment.
   * @param modifiedSeconds in UTC; null where it does not tell that
   */
  heardTime(modifiedSeconds: number | null): void {
    if (modifiedSeconds === null) return
    const ahead = modifiedSeconds - ourSeconds()
    if (Math.abs(ahead) > nearSeconds) this.learn({ clockSeconds: Math.round(ahead / 60) * 60 })
    // What was known before is told to be over.
    else if (this.#traits.clockSeconds !== undefined) this.learn({ clockSeconds: 0 })
  }

  /**
   * Gives a file that is being sent the time that it is, where the host's clock is wrong: visitors' programs go by it when
   * they ask whether they have a page already (RFC 9110 §13.1.3). A host that does not let it be set goes on as it is.
   * @param isOpen whether the connection can still be used
   * @returns the time, where it was given
   */
  async giveTime(set: (seconds: number) => Promise<void>, isOpen: () => boolean): Promise<number | null> {
    const { clockSeconds = 0, setsTimes } = this.#traits
    if (clockSeconds === 0 || setsTimes === false) return null
    const seconds = ourSeconds()
    try {
      await set(seconds)
      return seconds
    } catch (error) {
      if (!isOpen()) throw error
      this.learn({ setsTimes: false })
      return null
    }
  }
}
