/** Equal strings of many pages, kept once, each by a number of its own. */
export class Strings {
  readonly #numbers = new Map<string, number>()
  readonly #texts: string[] = []

  numberOf(text: string): number {
    const known = this.#numbers.get(text)
    if (known !== undefined) return known
    const number = this.#texts.push(text) - 1
    this.#numbers.set(text, number)
    return number
  }

  /** The one of all equal strings that is kept. */
  once(text: string): string {
    return this.textOf(this.numberOf(text))
  }

  textOf(number: number): string {
    return this.#texts[number]!
  }
}

/** How things of one kind are written in numbers: so many each, of 32 bits. */
export interface Packing<One> {
  readonly width: number
  readonly write: (one: One, into: Int32Array, at: number) => void
  readonly read: (from: Int32Array, at: number) => One
}

/**
 * Things of a page in numbers, made anew for whoever asks: all pages of a site are held at once, and as objects what is kept of
 * a page would be several times its text.
 */
export class Packed<One> implements Iterable<One> {
  readonly length: number
  readonly #numbers: Int32Array
  readonly #packing: Packing<One>

  constructor(all: readonly One[], packing: Packing<One>) {
    this.length = all.length
    this.#packing = packing
    this.#numbers = new Int32Array(all.length * packing.width)
    for (const [at, one] of all.entries()) packing.write(one, this.#numbers, at * packing.width)
  }

  at(index: number): One {
    return this.#packing.read(this.#numbers, index * this.#packing.width)
  }

  *[Symbol.iterator](): Iterator<One> {
    for (let index = 0; index < this.length; index++) yield this.at(index)
  }
}
