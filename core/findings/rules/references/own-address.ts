import { publicAddressOf, readOwnAddress, resolveReference } from '#core/links'
import { writeReference } from '#core/markup'
import type { Rule } from '../../rule'

/** Links to the site itself with its public address written out. */
export const ownAddress: Rule = {
  id: 'own-address',
  grade: 'detail',
  title: 'Links to this site with its address written out',
  why: 'On your own disk, at a trial place or after a move, the link leads to the old place and not to the page beside it.',
  reads: 'references',
  find(references, { was, at }, { names, homeFile, site, publicAddresses }) {
    const addresses = [
      ...new Set([site.publicAddress, ...publicAddresses.map((one) => publicAddressOf(one) ?? '')]),
    ]
    return references.flatMap((reference) => {
      // What tells others where the page is, or is read as an address only by them, has to be whole.
      if (reference.ifThere || /^link (href)$/.test(reference.holder)) return []
      const [own] = addresses.flatMap((address) => readOwnAddress(reference.href, address) ?? [])
      if (!own) return []
      const target = resolveReference(own.href, '', names, homeFile)
      const to = target.kind === 'page' || target.kind === 'file' ? `/${target.path}${target.suffix}` : null
      return [
        {
          mark: reference.href,
          place: at(reference),
          what: `${reference.href} is the address of this site.`,
          mends:
            to === null
              ? []
              : [
                  {
                    words: `Lead it to ${to}`,
                    edits: [
                      { start: reference.start, end: reference.end, text: writeReference(reference, to) },
                    ],
                    was,
                  },
                ],
        },
      ]
    })
  },
}
