import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A heading in which nothing can be read (WCAG 2.2 §2.4.6). */
export const emptyHeading: Rule = {
  id: 'empty-heading',
  grade: 'hinders',
  title: 'Headings without words',
  why: 'Who goes from heading to heading comes to one that says nothing.',
  reads: 'text',
  find: ofNotes('empty-heading', (name) => `Nothing stands in this <${name}>.`),
}
