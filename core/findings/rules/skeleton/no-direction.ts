import { directionOf, languageName } from '#core/language'
import { attributePlace, attributeValueRange } from '#core/markup'
import type { Rule } from '../../rule'
import { languagesBy, ofSkeleton } from './of-skeleton'

/** A template whose pages are read the other way than it says, or than browsers take them to be (HTML §3.2.6.4). */
export const noDirection: Rule = {
  id: 'no-direction',
  grade: 'hinders',
  title: 'Pages that do not say which way they are read',
  why: 'Browsers begin lines, lists and tables at the wrong end, and put signs of punctuation there.',
  reads: 'site',
  find: (context) => {
    const spoken = languagesBy(context)
    return ofSkeleton(({ language, html }, source, template) => {
      const tag = html?.sourceCodeLocation?.startTag
      const ofPages = spoken.get(template) ?? [context.site.language]
      const languages = language === null || language.includes('{') ? ofPages : [language]
      if (!tag) return null
      const said = html.attrs.find(({ name }) => name === 'dir')?.value.toLowerCase() ?? ''
      // What a value says is right on each page, and `auto` leaves it to the browser.
      if (said.includes('{') || said === 'auto') return null
      const wrong = languages.find((one) => directionOf(one) !== (said || 'ltr'))
      if (wrong === undefined) return null
      const way = new Set(languages.map(directionOf)).size > 1 ? '{direction}' : directionOf(wrong)
      const label = attributePlace(html, 'dir')
      const range = label && attributeValueRange(source, label)
      const at = attributePlace(html, 'lang')?.endOffset ?? tag.startOffset + '<html'.length
      const written = directionOf(wrong) === 'rtl' ? 'right to left' : 'left to right'
      return {
        what: `The “html” of this template ${said ? `says dir="${said}"` : 'has no “dir”'}; ${languageName(wrong)} (${wrong}) is written from ${written}.`,
        mends: [
          {
            words: `Write dir="${way}"`,
            edits: range
              ? [{ ...range, text: range.quoted ? way : `"${way}"` }]
              : [{ start: at, end: at, text: ` dir="${way}"` }],
            was: template.source,
          },
        ],
      }
    })(context)
  },
}
