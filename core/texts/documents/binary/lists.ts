import { type BinaryParts, partAt } from './parts'

/** What a level of a list counts by, and from where. */
interface Level {
  readonly start: number
  readonly form: number
}

/** Forms of numbers ([MS-OSHARED] §2.2.1.3): letters, bullets, nothing. */
const [upperLetters, lowerLetters, bullet, nothing] = [3, 4, 23, 255]
const mostLevels = 9

/** The marks of a document's lists, as they are counted ([MS-DOC] §2.9.131, §2.9.138). */
export class BinaryLists {
  readonly #levels = new Map<number, readonly Level[]>()
  /** Lists by the number that paragraphs name. */
  readonly #named: readonly number[]
  readonly #counts = new Map<number, (number | undefined)[]>()

  constructor(parts: BinaryParts) {
    const { table } = parts
    const { at, length } = partAt(parts, 73)
    const count = length < 2 ? 0 : table.short(at)
    let place = at + 2 + 28 * count
    for (let nth = 0; nth < count; nth++) {
      const of = at + 2 + 28 * nth
      const levels: Level[] = []
      const isSimple = (table.byte(of + 26) & 1) === 1
      for (let level = 0; level < (isSimple ? 1 : mostLevels); level++) {
        levels.push({ start: table.long(place), form: table.byte(place + 4) })
        place += 28 + table.byte(place + 24) + table.byte(place + 25)
        place += 2 + 2 * table.short(place)
      }
      this.#levels.set(table.long(of), levels)
    }
    const named = partAt(parts, 74)
    const names = named.length < 4 ? 0 : Math.min(table.long(named.at), Math.floor((named.length - 4) / 16))
    this.#named = Array.from({ length: names }, (_, nth) => table.long(named.at + 4 + 16 * nth))
  }

  /** The mark of the next entry of a list, as it is named from 1; null where that is none, or has no marks. */
  next(name: number, level: number): string | null {
    const list = this.#named[name - 1]
    const levels = list === undefined ? undefined : this.#levels.get(list)
    if (list === undefined || !levels) return null
    const { start, form } = levels[level] ?? levels[levels.length - 1]!
    if (form === nothing) return null
    if (form === bullet) return '•'
    const counts = this.#counts.get(list) ?? []
    this.#counts.set(list, counts)
    const number = counts[level] === undefined ? start : counts[level] + 1
    // What is below begins anew.
    counts.length = level
    counts[level] = number
    const letter = String.fromCharCode((form === upperLetters ? 64 : 96) + number)
    return (form === upperLetters || form === lowerLetters) && number <= 26 ? `${letter}.` : `${number}.`
  }
}
