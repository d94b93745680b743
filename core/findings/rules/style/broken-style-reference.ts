import { relativeReference, resolveReference } from '#core/links'
import { writeReference } from '#core/markup'
import { nearestPath } from '../../nearest'
import type { Rule } from '../../rule'

/** A picture, a font or another style sheet that a style sheet asks for and that is not there. */
export const brokenStyleReference: Rule = {
  id: 'broken-style-reference',
  grade: 'hinders',
  title: 'Style sheets that ask for what is not there',
  why: 'Every page asks the server for it in vain, and the picture or the typeface is missing.',
  reads: 'style',
  find: ({ references }, { file, path, at }, { names, homeFile }) =>
    references.flatMap((reference) => {
      const target = resolveReference(reference.href, path, names, homeFile)
      if (target.kind !== 'missing') return []
      const near = nearestPath(names, target.path)
      const href = near && (reference.href.startsWith('/') ? `/${near}` : relativeReference(path, near))
      const edit = href && {
        start: reference.start,
        end: reference.end,
        text: writeReference(reference, href + target.suffix),
      }
      return [
        {
          mark: reference.href,
          place: at(reference),
          what: `${reference.href} is no file of this site.`,
          mends: edit ? [{ words: `Lead it to ${near}`, edits: [edit], was: file.hash }] : [],
        },
      ]
    }),
}
