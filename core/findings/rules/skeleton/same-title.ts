import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/** A template whose title is missing, or one and the same on every page (HTML §4.2.2, WCAG 2.2 §2.4.2). */
export const sameTitle: Rule = {
  id: 'same-title',
  grade: 'hinders',
  title: 'Templates that give every page one title',
  why: 'In a row of tabs, in bookmarks and in lists of results no page can be told from another.',
  reads: 'site',
  find: ofSkeleton(({ title, elements, headStart }, _, template) => {
    const element = elements.find(({ part }) => part === 'title')
    const was = template.source
    if (!element)
      return {
        what: 'This template has no title.',
        mends: [
          {
            words: 'Write <title>{title}</title>',
            edits: [{ start: headStart, end: headStart, text: '\n    <title>{title}</title>' }],
            was,
          },
        ],
      }
    if (/\{(title|page)\}|<slot/.test(title ?? '')) return null
    return {
      mark: title ?? '',
      what: `Every page is called “${title?.trim()}”.`,
      mends: [
        {
          words: 'Let it be {title}',
          edits: [{ start: element.start, end: element.end, text: '<title>{title}</title>' }],
          was,
        },
      ],
    }
  }, 'title'),
}
