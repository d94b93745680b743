import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A field without a label (HTML §4.10.4, WCAG 2.2 §3.3.2). */
export const fieldWithoutLabel: Rule = {
  id: 'field-without-label',
  grade: 'hinders',
  title: 'Fields that nobody named',
  why: 'Who does not see the page hears “edit, blank”, and does not know what to write.',
  reads: 'text',
  find: ofNotes('no-label', (name) => `This <${name}> has no <label>. Say what belongs in it.`),
}
