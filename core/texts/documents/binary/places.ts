import { type BinaryParts, partAt, placesIn } from './parts'

/** Notes of a document: where they are called for, and where their texts are ([MS-DOC] §2.8.17, §2.8.18). */
export function notesIn(parts: BinaryParts, of: number, first: number) {
  const called = placesIn(parts, partAt(parts, of), 2).places.slice(0, -1)
  const { places } = placesIn(parts, partAt(parts, of + 1), 0)
  return called.flatMap((at, nth) => {
    const [start, end] = [places[nth], places[nth + 1]]
    return start === undefined || end === undefined ? [] : [{ at, start: first + start, end: first + end }]
  })
}

/** Places that have a name, by letter ([MS-DOC] §2.8.10, §2.9.278). */
export function namedPlaces(parts: BinaryParts): ReadonlyMap<number, readonly string[]> {
  const { table } = parts
  const named = new Map<number, string[]>()
  const { at, length } = partAt(parts, 21)
  if (length < 6) return named
  const { places } = placesIn(parts, partAt(parts, 22), 4)
  const count = Math.min(table.short(at + 2), places.length)
  for (let nth = 0, place = at + 6; nth < count && place < at + length; nth++) {
    const letters = table.short(place)
    const name = table.letters(place + 2, letters)
    const there = named.get(places[nth]!) ?? []
    // A program's own marks begin so.
    if (!name.startsWith('_Go')) there.push(name)
    named.set(places[nth]!, there)
    place += 2 + 2 * letters
  }
  return named
}
