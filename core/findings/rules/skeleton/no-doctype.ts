import type { Rule } from '../../rule'
import { ofSkeleton } from './of-skeleton'

/**
 * A template without a doctype, or with one of the first: browsers then draw its pages as those of the 1990s
 * (HTML §13.1.1, §13.2.6.4.1).
 */
export const noDoctype: Rule = {
  id: 'no-doctype',
  grade: 'hinders',
  title: 'Pages that browsers draw as in the 1990s',
  why: 'Without a doctype, or with one of the first, they measure boxes and letters otherwise.',
  reads: 'site',
  find: ofSkeleton(({ hasDoctype, isQuirky, doctypeEnd }, source, template) => {
    if (hasDoctype && !isQuirky) return null
    const start = doctypeEnd === null ? 0 : source.lastIndexOf('<!', doctypeEnd)
    const write = { start, end: doctypeEnd ?? 0, text: `<!DOCTYPE html>${hasDoctype ? '' : '\n'}` }
    return {
      mark: hasDoctype ? 'old' : undefined,
      what: hasDoctype
        ? 'Its doctype is one of the first, after which browsers draw a page as in the 1990s.'
        : 'No doctype stands at the front of this template.',
      mends: [{ words: 'Write <!DOCTYPE html>', edits: [write], was: template.source }],
    }
  }),
}
