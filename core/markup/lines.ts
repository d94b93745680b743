/** A place in a text as an author counts: 1-based, columns in UTF-16 code units. */
export interface LinePlace {
  readonly line: number
  readonly column: number
}

/** Looks up lines in one text, without going through it each time. */
export class Lines {
  /** Offsets of its line breaks. */
  readonly #breaks: number[] = []

  constructor(text: string) {
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) this.#breaks.push(at)
  }

  /** How many line breaks stand before an offset. */
  #before(offset: number): number {
    let [low, high] = [0, this.#breaks.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.#breaks[middle]! < offset) low = middle + 1
      else high = middle
    }
    return low
  }

  placeOf(offset: number): LinePlace {
    const before = this.#before(offset)
    return { line: before + 1, column: offset - (this.#breaks[before - 1] ?? -1) }
  }

  /** Whether a line break stands in a stretch. */
  hasBreak(start: number, end: number): boolean {
    const at = this.#breaks[this.#before(start)]
    return at !== undefined && at < end
  }
}
