import type { TextSpelling } from '#core/spelling'

/** Letters of what is kept, in all. */
const mostLetters = 20_000_000
/** What keeping one takes beside its words. */
const lettersOfOne = 100

/** What was found in texts lately, by what they are: most of a site stays as it is from one look to the next. */
export class KnownSpelling {
  readonly #known = new Map<string, { readonly spelling: TextSpelling; readonly letters: number }>()
  #letters = 0

  get(key: string): TextSpelling | undefined {
    const one = this.#known.get(key)
    if (!one) return undefined
    // Used lately.
    this.#known.delete(key)
    this.#known.set(key, one)
    return one.spelling
  }

  put(key: string, spelling: TextSpelling): void {
    const letters = spelling.unknown.reduce(
      (sum, { word, before, after }) => sum + word.length + before.length + after.length + lettersOfOne,
      lettersOfOne,
    )
    this.#drop(key)
    this.#known.set(key, { spelling, letters })
    this.#letters += letters
    for (const oldest of this.#known.keys()) {
      if (this.#letters <= mostLetters) break
      this.#drop(oldest)
    }
  }

  #drop(key: string): void {
    this.#letters -= this.#known.get(key)?.letters ?? 0
    this.#known.delete(key)
  }
}
