import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/** A template without a doctype: browsers then draw its pages as those of the 1990s (HTML §13.1.1). */
export const noDoctype: Rule = {
  id: 'no-doctype',
  grade: 'hinders',
  title: 'Pages without a doctype',
  why: 'Browsers then take the page for one of the 1990s, and measure boxes and letters otherwise.',
  reads: 'site',
  find: ofSkeleton(({ hasDoctype }, _, template) =>
    hasDoctype
      ? null
      : {
          what: 'No doctype stands at the front of this template.',
          mends: [
            {
              words: 'Write <!DOCTYPE html>',
              edits: [{ start: 0, end: 0, text: '<!DOCTYPE html>\n' }],
              was: template.source,
            },
          ],
        },
  ),
}
