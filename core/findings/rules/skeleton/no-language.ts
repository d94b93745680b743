import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/** A template that does not say its language (HTML §3.2.6.2, WCAG 2.2 §3.1.1). */
export const noLanguage: Rule = {
  id: 'no-language',
  grade: 'hinders',
  title: 'Pages that do not say their language',
  why: 'A screen reader reads them with the sounds of another language, and words are divided wrongly.',
  reads: 'site',
  find: ofSkeleton(({ language, html }, _, template) => {
    if (language !== null && language.trim() !== '') return null
    const tag = html?.sourceCodeLocation?.startTag
    return {
      what: 'The “html” of this template has no “lang”.',
      mends:
        tag && language === null
          ? [
              {
                words: 'Write lang="{language}"',
                edits: [{ start: tag.startOffset + 5, end: tag.startOffset + 5, text: ' lang="{language}"' }],
                was: template.source,
              },
            ]
          : [],
    }
  }),
}
