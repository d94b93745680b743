import { resolveReference, splitReference } from '#core/links'
import { writeReference } from '#core/markup'
import type { Rule } from '../../rule'

/** The part of an address behind one of the site's own; null for any other address. */
function pathBehind(href: string, addresses: readonly string[]): string | null {
  for (const address of addresses) {
    const base = address.replace(/\/*$/, '')
    // With and without the “s”: a site is one and the same place under both.
    const rest = href.replace(/^https?:/i, '').slice(base.replace(/^https?:/i, '').length)
    const isOwn = href
      .replace(/^https?:/i, '')
      .toLowerCase()
      .startsWith(base.replace(/^https?:/i, '').toLowerCase())
    if (base !== '' && isOwn && /^([/?#]|$)/.test(rest)) return rest
  }
  return null
}

/** Links to the site itself with its public address written out. */
export const ownAddress: Rule = {
  id: 'own-address',
  grade: 'detail',
  title: 'Links to this site with its address written out',
  why: 'On your own disk, at a trial place or after a move, the link leads to the old place and not to the page beside it.',
  reads: 'references',
  find(references, { was, at }, { names, homeFile, publicAddresses }) {
    if (publicAddresses.length === 0) return []
    return references.flatMap((reference) => {
      const rest = pathBehind(reference.href, publicAddresses)
      if (rest === null || /^link (href)$/.test(reference.holder)) return []
      const { path, suffix } = splitReference(rest === '' ? '/' : rest)
      const target = resolveReference(path === '' ? '/' : path, '', names, homeFile)
      const to = target.kind === 'page' || target.kind === 'file' ? `/${target.path}${suffix}` : null
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
