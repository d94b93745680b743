import { leadsAbove, referenceLike, resolveReference } from '#core/links'
import { writeReference } from '#core/markup'
import { checkOwnNameOf, isOwnPath, type Names, readOwnPath, splitFileName } from '#core/naming'
import { nearestPath, nearPaths } from '#core/links'
import type { FindingContext, Mend, Rule } from '../../rule'
import { faultOf } from './malformed-address'

/** A reference that leads to nothing in this site. */
export const brokenReference: Rule = {
  id: 'broken-reference',
  grade: 'breaks',
  title: 'Links and references that lead nowhere',
  why: 'A visitor who follows one meets “not found”.',
  reads: 'references',
  find(references, { from, was, at }, context) {
    return references.flatMap((reference) => {
      const target = resolveReference(reference.href, from, context.names, context.homeFile)
      // What is meant above the site is not the site's.
      if (target.kind !== 'missing' || leadsAbove(reference.href, from)) return []
      // Told as what it is.
      if (faultOf(reference, from, context)?.isOutside) return []
      const nearest = nearestPath(context.names, target.path)
      const leadTo = (path: string): Mend => {
        const href = referenceLike(reference.href, from, path, context.names)
        const text = writeReference(reference, href + target.suffix)
        const edits = [{ start: reference.start, end: reference.end, text }]
        // What is only one of several is chosen by its author.
        return { words: `Lead it to ${path}`, edits, was, ...(path !== nearest && { isOther: true }) }
      }
      const near = nearPaths(context.names, target.path)
      return [
        {
          mark: reference.href,
          place: at(reference),
          what:
            nearest?.toLowerCase() === target.path.toLowerCase()
              ? `${reference.href} differs from ${nearest} in capitals only; most hosts tell them apart.`
              : isFolder(target.path, context.names)
                ? `${reference.href} is a folder without a home page: visitors see a list of files, or “forbidden”.`
                : `${reference.href} leads to no page or file of this site.`,
          mends: [
            ...near.map(leadTo),
            ...near.slice(0, 2).flatMap((path) => renamed(path, target.path, context)),
          ],
        },
      ]
    })
  },
}

/** Whether something stands below a path at which nothing stands itself. */
function isFolder(path: string, { byPath }: Names): boolean {
  let known = folders.get(byPath)
  if (!known) {
    known = new Set()
    for (const one of byPath.keys())
      for (let at = one.lastIndexOf('/'); at > 0; at = one.lastIndexOf('/', at - 1))
        known.add(one.slice(0, at))
    folders.set(byPath, known)
  }
  return known.has(path.replace(/\/+$/, ''))
}
const folders = new WeakMap<Names['byPath'], Set<string>>()

/** The other way: what was meant gets the name that the reference has, in the folder where it stands. */
function renamed(near: string, wanted: string, { names, site }: FindingContext): Mend[] {
  const [from, to] = [splitPath(near), splitPath(wanted)]
  const entry = names.byPath.get(near)
  // Capitals in names are what leads to such references in the first place.
  if (
    !entry ||
    near.toLowerCase() === wanted.toLowerCase() ||
    from.folder !== to.folder ||
    from.extension !== to.extension ||
    to.stem === ''
  )
    return []
  const words = `Call ${near} ${to.stem}${to.extension} instead`
  if (entry.kind === 'file') {
    const { label } = site.files.find(({ id }) => id === entry.id)!
    const change = {
      kind: 'renameFile' as const,
      fileId: entry.id,
      label: to.stem + to.extension,
      was: label,
    }
    return [{ words, change, isOther: true }]
  }
  const page = site.pages.find(({ id }) => id === entry.id)!
  // One with a path of its own stays in its folder.
  const own = isOwnPath(page.ownName) ? (readOwnPath(page.ownName).extension ?? '') : null
  const value = own !== null ? `/${to.folder}${to.stem}${own}` : to.stem
  if (checkOwnNameOf(site, page.id, value) !== null) return []
  const change = { kind: 'setPageText' as const, pageId: page.id, field: 'ownName' as const, value, was: page.ownName } // prettier-ignore
  return [{ words, change, isOther: true }]
}

function splitPath(path: string) {
  const cut = path.lastIndexOf('/') + 1
  const { stem, extension } = splitFileName(path.slice(cut))
  return { folder: path.slice(0, cut), stem, extension }
}
