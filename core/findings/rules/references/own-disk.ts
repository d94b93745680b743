import { writeReference } from '#core/markup'
import type { Rule } from '../../rule'

const ownDisk = /^(file:|[a-z]:[\\/])/i

/** An address of the author's own computer, or with slashes of its file system. */
export const ownDiskAddress: Rule = {
  id: 'own-disk-address',
  grade: 'breaks',
  title: 'Addresses on your own disk',
  why: 'It works on the computer on which it was written, and on no other.',
  reads: 'references',
  find: (references, { was, at }) =>
    references.flatMap((reference) => {
      const { href } = reference
      const isOwn = ownDisk.test(href)
      if (!isOwn && !href.includes('\\')) return []
      if (isOwn) {
        const what = `${href} is a file on somebody’s own disk. Add it to the site, and lead there.`
        return [{ mark: href, place: at(reference), what }]
      }
      const { start, end } = reference
      const slashed = href.replaceAll('\\', '/')
      const edits = [{ start, end, text: writeReference(reference, slashed) }]
      const what = `${href} has backslashes, which not every program takes for slashes.`
      return [{ mark: href, place: at(reference), what, mends: [{ words: `Write ${slashed}`, edits, was }] }]
    }),
}
