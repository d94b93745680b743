import type { Rule } from '../../rule'

/** A picture that says nothing to whoever cannot see it (HTML §4.8.4.4, WCAG 2.2 §1.1.1). */
export const pictureWithoutWords: Rule = {
  id: 'picture-without-words',
  title: 'Pictures that say nothing to who cannot see them',
  why: 'A screen reader reads the name of the file instead, and a search engine does not know what it shows.',
  reads: 'text',
  find: ({ notes }, at) =>
    notes.flatMap((note, index) =>
      note.kind === 'no-alt'
        ? [
            {
              mark: String(index),
              place: at(note),
              what: 'This picture has no “alt”. Write what it says; for a mere decoration, alt="".',
            },
          ]
        : [],
    ),
}
