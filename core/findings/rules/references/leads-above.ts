import { leadsAbove, resolveReference } from '#core/links'
import type { Rule } from '../../rule'

/** References that step above the top of the site, to what else its host has. */
export const leadsAboveSite: Rule = {
  id: 'leads-above',
  grade: 'hinders',
  title: 'References that lead above the site',
  why: 'They lead to something else of the same host where the site stands in a folder of it; where it stands at the top, and on your own disk, they lead nowhere.',
  reads: 'references',
  find: (references, { from, at }, { names, homeFile }) =>
    references.flatMap((reference) => {
      const { href } = reference
      if (!leadsAbove(href, from) || resolveReference(href, from, names, homeFile).kind !== 'missing')
        return []
      const what = `${href} leads above the top of this site; what stands there cannot be told from here.`
      return [{ mark: href, place: at(reference), what }]
    }),
}
