import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** Text that stands in for one that is still to be written. */
export const fillerText: Rule = {
  id: 'filler-text',
  grade: 'hinders',
  title: 'Text still to be written',
  why: 'Visitors read it as it stands, and take it that nobody looks after the site.',
  reads: 'text',
  find: ofNotes('filler', (name) => `“${name}” stands in for a text.`),
}
