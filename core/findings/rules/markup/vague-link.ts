import type { Rule } from '../../rule'
import { ofNotes } from './of-notes'

/** A link whose words say nothing where it stands alone (WCAG 2.2 §2.4.4). */
export const vagueLink: Rule = {
  id: 'vague-link',
  grade: 'detail',
  title: 'Links that do not say where they lead',
  why: 'Who goes from link to link hears “here, here, more”, and a search engine learns nothing of what is there.',
  reads: 'text',
  find: ofNotes(
    'vague-link',
    (name) => `“${name}” does not say where the link leads. Let it name what is there.`,
  ),
}
