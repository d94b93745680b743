import { applyEdits, type Range } from '#core/markup'
import { longestText } from '#core/site'
import { finderOf, type Wanted } from './finder'
import { type FoundWords, foundLines } from './found-lines'
import { placesWithin, readableRanges } from './readable'

/** What a text is: HTML, whose words can be told from its tags; words alone; or source of another kind. */
export type TextKind = 'html' | 'words' | 'source'

/** Places of words in texts, each of its kind. */
function placesIn(text: string, kind: TextKind, wanted: Wanted, find: (text: string) => Range[]): Range[] {
  if (kind === 'source' && !wanted.inSource) return []
  const places = find(text)
  // Parsed only where there is something to tell apart.
  return places.length > 0 && kind === 'html' && !wanted.inSource
    ? placesWithin(places, readableRanges(text))
    : places
}

/** Words found in a text, the first of them with their lines. */
export function findIn(text: string, kind: TextKind, wanted: Wanted, mostLines: number): FoundWords {
  const find = finderOf(wanted)
  const places = find ? placesIn(text, kind, wanted, find) : []
  return { count: places.length, lines: foundLines(text, places.slice(0, mostLines)) }
}

/**
 * A text with something else in the place of words: as it is typed, which in HTML may be tags.
 * @throws RangeError where it would be longer than a text may be; nothing is made to know it
 */
export function replaceIn(text: string, kind: TextKind, wanted: Wanted, by: string): string {
  const find = finderOf(wanted)
  const places = find ? placesIn(text, kind, wanted, find) : []
  const longer = places.reduce((sum, { start, end }) => sum + by.length - (end - start), 0)
  if (longer > 0 && text.length + longer > longestText) throw new RangeError('The text would be too long.')
  return applyEdits(
    text,
    places.map((place) => ({ ...place, text: by })),
  )
}
