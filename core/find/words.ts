import { applyEdits, type Range, type TextEdit } from '#core/markup'
import { finderOf, type Wanted } from './finder'
import { type FoundWords, foundLines } from './found-lines'
import { likeFound, plainWords, putAs } from './put-as'
import { outsideExpressions, placesWithin, type Readable, readableRanges } from './readable'

/**
 * What a text is: HTML, whose words can be told from its tags; that of a template, which has expressions, too; a pattern of
 * words and expressions; words alone; or source of another kind.
 */
export type TextKind = 'html' | 'template' | 'pattern' | 'words' | 'source'

interface FoundPlace {
  readonly place: Range
  /** Null in words alone, and where all of a source is looked through. */
  readonly within: Readable | null
}

const anywhere = (places: readonly Range[]): FoundPlace[] => places.map((place) => ({ place, within: null }))

/** Places of words in texts, each of its kind. */
function placesIn(text: string, kind: TextKind, wanted: Wanted): FoundPlace[] {
  const find = kind === 'source' && !wanted.inSource ? null : finderOf(wanted)
  const places = find?.(text) ?? []
  if (kind === 'pattern') return anywhere(outsideExpressions(text, places))
  // Parsed only where there is something to tell apart.
  if (places.length === 0 || wanted.inSource || kind === 'words' || kind === 'source') return anywhere(places)
  return placesWithin(kind === 'template' ? outsideExpressions(text, places) : places, readableRanges(text))
}

/** Words found in a text, the first of them with their lines. */
export function findIn(text: string, kind: TextKind, wanted: Wanted, mostLines: number): FoundWords {
  const places = placesIn(text, kind, wanted)
  return {
    count: places.length,
    lines: foundLines(
      text,
      places.slice(0, mostLines).map(({ place }) => place),
    ),
  }
}

/**
 * A text with something else in the place of words: as it is typed, which in HTML may be tags; where those would be letters, as
 * its words. Where capital and small letters are not told apart it takes those that the words had.
 * @param longest what it may become, in UTF-16 code units
 * @returns null where it would be longer; nothing is made to know it
 */
export function replaceIn(
  text: string,
  kind: TextKind,
  wanted: Wanted,
  by: string,
  longest: number,
): string | null {
  const plain = plainWords(by)
  const edits: TextEdit[] = []
  let quoted: Range | null = null
  let longer = 0
  const put = (edit: TextEdit) => {
    edits.push(edit)
    longer += edit.text.length - (edit.end - edit.start)
  }
  /** A value that had no quotes gets some, around all that is put into it. */
  const endQuotes = () => {
    if (quoted) put({ start: quoted.end, end: quoted.end, text: '"' })
    quoted = null
  }
  for (const { place, within } of placesIn(text, kind, wanted)) {
    if (within !== quoted) endQuotes()
    if (within?.as === 'unquoted' && quoted === null) {
      put({ start: within.start, end: within.start, text: '"' })
      quoted = within
    }
    const is = within === null || within.as === 'html' ? by : plain
    const like = wanted.isExact ? is : likeFound(is, text.slice(place.start, place.end))
    put({ ...place, text: within === null ? like : putAs(like, within.as) })
    if (longer > 0 && text.length + longer > longest) return null
  }
  endQuotes()
  return applyEdits(text, edits)
}
