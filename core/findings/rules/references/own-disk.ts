import { referenceLike, splitReference } from '#core/links'
import { writeReference } from '#core/markup'
import type { Names } from '#core/naming'
import type { Mend, Rule } from '../../rule'

const ownDisk = /^(file:|[a-z]:[\\/])/i

/** Files of the site that are offered in the place of one on a disk. */
const mostOffered = 3

/** The name of a file in a path as any system writes it. */
function lastStep(href: string): string {
  const step = splitReference(href).path.split(/[\\/]/).at(-1)!
  try {
    return decodeURIComponent(step)
  } catch {
    return step
  }
}

/** Files and pages of the site that have a name, whatever its capitals. */
function calledAs(name: string, { byPath }: Names): readonly string[] {
  let known = byName.get(byPath)
  if (!known) {
    known = new Map()
    for (const path of byPath.keys()) {
      const called = path.slice(path.lastIndexOf('/') + 1).toLowerCase()
      const those = known.get(called)
      if (those) those.push(path)
      else known.set(called, [path])
    }
    byName.set(byPath, known)
  }
  return known.get(name.toLowerCase()) ?? []
}
const byName = new WeakMap<Names['byPath'], Map<string, string[]>>()

/** An address of the author's own computer, or with slashes of its file system. */
export const ownDiskAddress: Rule = {
  id: 'own-disk-address',
  grade: 'breaks',
  title: 'Addresses on your own disk',
  why: 'It works on the computer on which it was written, and on no other.',
  reads: 'references',
  find: (references, { from, was, at }, { names }) =>
    references.flatMap((reference) => {
      const { href } = reference
      const isOwn = ownDisk.test(href)
      // Behind the path they are signs like others (URL Standard §4.4, "relative slash state").
      if (!isOwn && !splitReference(href).path.includes('\\')) return []
      if (isOwn) {
        const there = calledAs(lastStep(href), names)
        const what = `${href} is a file on somebody’s own disk. ${there.length > 0 ? 'Lead to the one in this site.' : 'Add it to the site, and lead there.'}`
        const { start, end } = reference
        const mends = there.slice(0, mostOffered).map((path): Mend => {
          const text = writeReference(reference, referenceLike('', from, path, names))
          // What is only one of several is chosen by its author.
          return {
            words: `Lead it to ${path}`,
            edits: [{ start, end, text }],
            was,
            ...(there.length > 1 && { isOther: true }),
          }
        })
        return [{ mark: href, place: at(reference), what, mends }]
      }
      const { start, end } = reference
      const slashed = href.replaceAll('\\', '/')
      const edits = [{ start, end, text: writeReference(reference, slashed) }]
      const what = `${href} has backslashes, which not every program takes for slashes.`
      return [{ mark: href, place: at(reference), what, mends: [{ words: `Write ${slashed}`, edits, was }] }]
    }),
}
