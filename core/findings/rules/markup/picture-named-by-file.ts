import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** Alternative text that is a file name (WCAG 2.2 §1.1.1, failure F30). */
export const pictureNamedByFile: Rule = {
  id: 'picture-named-by-file',
  grade: 'hinders',
  title: 'Pictures that say the name of their file',
  why: '“IMG 0412 dot jpg” is what a screen reader says in the place of the picture.',
  reads: 'text',
  find: ofNotes('alt-of-file', (name) => `“${name}” is the name of a file. Write what the picture says.`),
}
