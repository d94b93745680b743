import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A link in which nothing can be read (WCAG 2.2 §2.4.4). */
export const linkWithoutWords: Rule = {
  id: 'link-without-words',
  grade: 'hinders',
  title: 'Links without words',
  why: 'Nobody sees that there is a link, and a screen reader reads its address letter by letter.',
  reads: 'text',
  find: ofNotes('empty-link', () => 'Nothing stands in this link.'),
}
