/** Requests on their way, so many at once; the first that fails is told to whoever adds the next, or waits for the end. */
export class OnWay {
  #count = 0
  #failure: { readonly error: unknown } | null = null
  #wake: (() => void) | null = null

  constructor(private readonly most: number) {}

  /** Begins one more as soon as there is room for it. */
  async add(begin: () => Promise<void>): Promise<void> {
    while (this.#count >= this.most && !this.#failure) await this.#change()
    if (this.#failure) throw this.#failure.error
    this.#count += 1
    begin()
      .catch((error: unknown) => (this.#failure ??= { error }))
      .finally(() => {
        this.#count -= 1
        this.#wake?.()
      })
  }

  /** Resolves when none is on its way any more. */
  async ended(): Promise<void> {
    while (this.#count > 0 && !this.#failure) await this.#change()
    if (this.#failure) throw this.#failure.error
  }

  #change(): Promise<void> {
    return new Promise((resolve) => (this.#wake = resolve))
  }
}
