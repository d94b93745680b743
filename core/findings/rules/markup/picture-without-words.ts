import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A picture that says nothing to whoever cannot see it (HTML §4.8.4.4, WCAG 2.2 §1.1.1). */
export const pictureWithoutWords: Rule = {
  id: 'picture-without-words',
  grade: 'hinders',
  title: 'Pictures that say nothing to who cannot see them',
  why: 'A screen reader reads the name of the file instead, and a search engine does not know what it shows.',
  reads: 'text',
  find: ofNotes(
    'no-alt',
    () => 'This picture has no “alt”. Write what it says; for a mere decoration, alt="".',
  ),
}
