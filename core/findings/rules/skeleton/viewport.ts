import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

const usual = 'width=device-width, initial-scale=1'

/** No viewport, or one that keeps visitors from making the page larger (CSS Viewport §3, WCAG 2.2 §1.4.4). */
export const viewport: Rule = {
  id: 'viewport',
  grade: 'hinders',
  title: 'Pages that do not fit a telephone',
  why: 'A telephone draws the page as wide as a desk and makes it small, or does not let anybody make it larger.',
  reads: 'site',
  find: ofSkeleton(({ viewport: said, elements, headStart }, _, template) => {
    const element = elements.find(({ part }) => part === 'viewport')
    const tag = `<meta name="viewport" content="${usual}">`
    if (!element)
      return {
        what: 'No viewport is stated.',
        mends: [
          {
            words: 'Fit it to the device',
            edits: [{ start: headStart, end: headStart, text: `\n    ${tag}` }],
            was: template.source,
          },
        ],
      }
    if (!/user-scalable\s*=\s*(no|0)|maximum-scale\s*=\s*(1(\.\d*)?|0[^,]*)\s*(,|$)/i.test(said ?? ''))
      return null
    return {
      mark: said ?? '',
      what: 'The viewport keeps visitors from making the page larger.',
      mends: [
        {
          words: 'Let them',
          edits: [{ start: element.start, end: element.end, text: tag }],
          was: template.source,
        },
      ],
    }
  }, 'viewport'),
}
