import type { Rule } from '../../rule'

/** A recording that nothing on the page begins (HTML §4.8.11.13). */
export const withoutControls: Rule = {
  id: 'without-controls',
  grade: 'hinders',
  title: 'Recordings without controls',
  why: 'Nobody can begin or end it but a script; a sound without them is not even shown.',
  reads: 'text',
  find: ({ notes }, at, was) =>
    notes.flatMap((note) => {
      if (note.kind !== 'no-controls') return []
      const place = note.start + `<${note.name}`.length
      return [
        {
          mark: note.piece,
          place: at(note),
          what: `This <${note.name}> has neither “controls” nor “autoplay”.`,
          mends: [{ words: 'Write controls', edits: [{ start: place, end: place, text: ' controls' }], was }],
        },
      ]
    }),
}
