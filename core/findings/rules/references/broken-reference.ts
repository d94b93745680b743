import { relativeReference, resolveReference } from '#core/links'
import { writeReference } from '#core/markup'
import { nearestPath } from '../../nearest'
import type { Rule } from '../../rule'

/** A reference that leads to nothing in this site. */
export const brokenReference: Rule = {
  id: 'broken-reference',
  title: 'Links and references that lead nowhere',
  why: 'A visitor who follows one meets “not found”.',
  reads: 'references',
  find(references, { from, was, at }, context) {
    return references.flatMap((reference) => {
      const target = resolveReference(reference.href, from, context.names, context.homeFile)
      if (target.kind !== 'missing') return []
      const near = nearestPath(context.names, target.path)
      const href =
        near && (from === '' || reference.href.startsWith('/') ? `/${near}` : relativeReference(from, near))
      const text = href === null ? null : writeReference(reference, href + target.suffix)
      return [
        {
          mark: reference.href,
          place: at(reference),
          what:
            near !== null && near.toLowerCase() === target.path.toLowerCase()
              ? `${reference.href} differs from ${near} in capitals only; most hosts tell them apart.`
              : `${reference.href} leads to no page or file of this site.`,
          mends:
            text === null
              ? []
              : [
                  {
                    words: `Lead it to ${near}`,
                    edits: [{ start: reference.start, end: reference.end, text }],
                    was,
                  },
                ],
        },
      ]
    })
  },
}
