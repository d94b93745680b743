import type { ElementNote } from '#core/markup'
import type { Found, PlaceIn, TextFacts } from '../../rule'

/** What a rule says of each element of which one thing was noted. */
export const ofNotes =
  (kind: ElementNote['kind'], say: (name: string) => string) =>
  ({ notes }: TextFacts, at: PlaceIn): Found[] =>
    notes.flatMap((note) =>
      note.kind === kind ? [{ mark: note.piece, place: at(note), what: say(note.name) }] : [],
    )
