import { type HostRemark, remarksOfHost } from '#core/naming'
import { inFile, inPage, type Rule } from '../../rule'

/** They depend on nothing but where everything stands. */
const known = new WeakMap<object, readonly HostRemark[]>()

/** Names that hosts refuse, cannot tell apart, or do not look for: a home page under another name. */
export const hostRemarks: Rule = {
  id: 'host-remarks',
  grade: 'breaks',
  title: 'Names that hosts stumble over',
  why: 'What one computer takes, another refuses or takes for the same file; the home page is found only by its name.',
  reads: 'site',
  find({ site, tree, names, planToken }) {
    const files = new Map(site.files.map((file) => [file.id, file]))
    let remarks = known.get(planToken)
    if (!remarks) known.set(planToken, (remarks = remarksOfHost(site, 'case-folded')))
    return remarks.flatMap(({ path, kind, text }) => {
      // A name that is only shown otherwise is a matter of taste, and told beside the scheme.
      if (kind === 'shown-otherwise') return []
      const entry = names.byPath.get(path)
      const page = entry?.kind === 'page' ? tree.byId.get(entry.id) : undefined
      const file = entry?.kind === 'file' ? files.get(entry.id) : undefined
      const place = file ? inFile(file) : inPage(page ?? tree.byId.get(site.homeId)!)
      return [{ mark: `${kind} ${path}`, place, what: `${path} ${text}.` }]
    })
  },
}
