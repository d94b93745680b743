import { resolveReference } from '#core/links'
import type { Rule } from '../../rule'

/** A reference to a page that never goes out. */
export const linkToTrial: Rule = {
  id: 'link-to-trial',
  grade: 'breaks',
  title: 'Links to trial pages',
  why: 'A trial page is never sent, so a visitor who follows the link meets “not found”.',
  reads: 'references',
  find(references, { from, at }, { names, homeFile, tree }) {
    return references.flatMap((reference) => {
      const target = resolveReference(reference.href, from, names, homeFile)
      if (target.kind !== 'page' || !tree.placeOf.get(target.id)?.trial) return []
      const { label, trial } = tree.byId.get(target.id)!
      return [
        {
          mark: reference.href,
          place: at(reference),
          what: `${reference.href} leads to “${label}”, which is a trial page.`,
          mends: trial
            ? [
                {
                  words: `Put “${label}” in the site`,
                  change: { kind: 'setPageFlag', pageIds: [target.id], flag: 'trial', value: false },
                },
              ]
            : [],
        },
      ]
    })
  },
}
