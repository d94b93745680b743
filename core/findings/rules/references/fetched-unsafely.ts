import { writeReference } from '#core/markup'
import type { Rule } from '../../rule'

/** What a page runs, is styled by, or shows as a page of its own: what others could change on the way. */
const running = /^(script src|iframe src|frame src|embed src|object data|@import)$/
/** A link names what it fetches beside its address; of that, a style sheet is told by its own name. */
const styleSheet = /\.css(?:$|[?#])|\/css\d?(?:$|[?/])/i
/** What is on the same machine is not on the way. */
const ownMachine = /^http:\/\/(localhost|127\.|\[::1\])/i

/** What browsers do not fetch for a page that came over https (Mixed Content §5.3). Pictures and sound they ask for safely. */
export const fetchedUnsafely: Rule = {
  id: 'fetched-unsafely',
  grade: 'breaks',
  title: 'Addresses that a safe page may not fetch from',
  why: 'Hosts show pages over https, and browsers then fetch nothing over http that could change them: it is missing.',
  reads: 'references',
  find(references, { was, at }, { site, publicAddresses }) {
    const seenAt = [site.publicAddress, ...publicAddresses].filter((address) => address !== '')
    // Visitors of a site that is shown over http alone get it all.
    if (seenAt.length > 0 && seenAt.every((address) => /^http:/i.test(address))) return []
    return references.flatMap((reference) => {
      const { href, holder, start, end } = reference
      if (!/^http:\/\//i.test(href) || ownMachine.test(href)) return []
      if (!running.test(holder) && !(holder === 'link href' && styleSheet.test(href))) return []
      const safe = `https${href.slice('http'.length)}`
      return [
        {
          mark: href,
          place: at(reference),
          what: `${href} is fetched over http.`,
          mends: [
            { words: `Ask for ${safe}`, edits: [{ start, end, text: writeReference(reference, safe) }], was },
          ],
        },
      ]
    })
  },
}
