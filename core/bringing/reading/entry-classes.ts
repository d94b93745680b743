/** The `class` of entries, which some of them have another of than most. */
export class ClassesOfEntries {
  readonly #ids = new Map<string, string[]>()

  add(id: string, name: string): void {
    const ids = this.#ids.get(name)
    if (ids) ids.push(id)
    else this.#ids.set(name, [id])
  }

  get common(): string | null {
    const [only, another] = this.#ids.keys()
    return another === undefined ? (only ?? null) : null
  }

  /** What most have, and what the others have: of as many, those without a class are as usual. */
  get told(): {
    readonly usual: string | null
    readonly other: string | null
    readonly others: readonly string[]
  } {
    const [first, second, third] = [...this.#ids].sort(
      ([a, those], [b, these]) => these.length - those.length || a.length - b.length,
    )
    const isTold = second !== undefined && third === undefined
    if (!isTold || (first![1].length === second[1].length && first![0] !== ''))
      return { usual: this.common, other: null, others: [] }
    return { usual: first![0], other: second[0], others: second[1] }
  }
}
