import type { Rule } from '../../rule'

/** A link in which nothing can be read (WCAG 2.2 §2.4.4). */
export const linkWithoutWords: Rule = {
  id: 'link-without-words',
  title: 'Links without words',
  why: 'Nobody sees that there is a link, and a screen reader reads its address letter by letter.',
  reads: 'text',
  find: ({ notes }, at) =>
    notes.flatMap((note, index) =>
      note.kind === 'empty-link'
        ? [{ mark: String(index), place: at(note), what: 'Nothing stands in this link.' }]
        : [],
    ),
}
