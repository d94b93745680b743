import { directionOf } from '#core/language'
import { attributePlace } from '#core/markup'
import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/** A template in a language that is written from right to left, and does not say so (HTML §3.2.6.4). */
export const noDirection: Rule = {
  id: 'no-direction',
  grade: 'hinders',
  title: 'Pages that do not say that they are read from right to left',
  why: 'Browsers begin lines, lists and tables at the left, and put signs of punctuation at the wrong end.',
  reads: 'site',
  find: (context) =>
    ofSkeleton(({ language, html }, _, template) => {
      const own = language === null || language.includes('{') ? context.site.language : language
      const tag = html?.sourceCodeLocation?.startTag
      if (directionOf(own) !== 'rtl' || !tag || html.attrs.some(({ name }) => name === 'dir')) return null
      const at = attributePlace(html, 'lang')?.endOffset ?? tag.startOffset + '<html'.length
      return {
        what: `The “html” of this template has no “dir”; “${own}” is written from right to left.`,
        mends: [
          {
            words: 'Write dir="rtl"',
            edits: [{ start: at, end: at, text: ' dir="rtl"' }],
            was: template.source,
          },
        ],
      }
    })(context),
}
