import type { Rule } from '../../rule'
import { ofNotes } from '../markup/of-notes'

/** A film without a track of what is said in it (HTML §4.8.11.11, WCAG 2.2 §1.2.2). */
export const filmWithoutCaptions: Rule = {
  id: 'film-without-captions',
  grade: 'detail',
  title: 'Films without captions',
  why: 'Who does not hear, or sits where nothing may be heard, sees lips that move.',
  reads: 'text',
  find: ofNotes(
    'no-captions',
    () =>
      'This film has no <track kind="captions">. Where nothing in it is to be heard, say so with “muted”.',
  ),
}
