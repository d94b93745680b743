/** What was asked for lately, by key, as far as there is room for it. */
export class Memory<Value> {
  readonly #held = new Map<string, { value: Value; size: number }>()
  #size = 0

  /** @param most the room there is, in bytes or whatever sizes are told in */
  constructor(private readonly most: number) {}

  get(key: string): Value | undefined {
    const known = this.#held.get(key)
    if (!known) return undefined
    // Asked for again, it is the last to be let go.
    this.#held.delete(key)
    this.#held.set(key, known)
    return known.value
  }

  set(key: string, value: Value, size: number): void {
    if (size > this.most / 4 || this.#held.has(key)) return
    this.#held.set(key, { value, size })
    this.#size += size
    for (const [oldest, { size: freed }] of this.#held) {
      if (this.#size <= this.most) break
      this.#held.delete(oldest)
      this.#size -= freed
    }
  }
}
