import type { Rule } from '../../rule'
import { ofNotes } from '../markup/of-notes'

/** A recording that is heard without being asked for (WCAG 2.2 §1.4.2). */
export const playsAlone: Rule = {
  id: 'plays-alone',
  grade: 'hinders',
  title: 'Recordings that begin by themselves',
  why: 'It speaks over the screen reader that somebody listens to, and browsers keep most of them silent.',
  reads: 'text',
  find: ofNotes(
    'plays-alone',
    (tag) => `This <${tag}> has “autoplay” and is not “muted”. Let visitors begin it, with “controls”.`,
  ),
}
