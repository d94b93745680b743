import type { Rule } from '../../rule'

const ownDisk = /^(file:|[a-z]:[\\/])/i

/** An address of the author's own computer, or with slashes of its file system. */
export const ownDiskAddress: Rule = {
  id: 'own-disk-address',
  grade: 'breaks',
  title: 'Addresses on your own disk',
  why: 'It works on the computer on which it was written, and on no other.',
  reads: 'references',
  find: (references, { at }) =>
    references.flatMap((reference) => {
      const { href } = reference
      const isOwn = ownDisk.test(href)
      if (!isOwn && !href.includes('\\')) return []
      const what = isOwn
        ? `${href} is a file on somebody’s own disk. Add it to the site, and lead there.`
        : `${href} has backslashes; in an address they lead astray. Write slashes.`
      return [{ mark: href, place: at(reference), what }]
    }),
}
