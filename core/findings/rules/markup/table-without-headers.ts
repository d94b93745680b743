import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A table of data without a single `th` (HTML §4.9.10, WCAG 2.2 §1.3.1). */
export const tableWithoutHeaders: Rule = {
  id: 'table-without-headers',
  grade: 'hinders',
  title: 'Tables without heads',
  why: 'A screen reader says “12” and not “Tuesday, 12”: the head of a row or column is what gives a cell its meaning.',
  reads: 'text',
  find: ofNotes(
    'no-headers',
    () => 'No cell of this table is a head. Write <th> for those that name a row or a column.',
  ),
}
