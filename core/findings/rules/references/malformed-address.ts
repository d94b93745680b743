import { type Reference, writeReference } from '#core/markup'
import type { Rule } from '../../rule'

interface Fault {
  readonly what: string
  /** What was meant; null where that is not sure. */
  readonly meant: string | null
}

const isUrl = (href: string) => URL.canParse(href)

/** What is wrong with an address by itself (RFC 3986, RFC 6068); null for a right one. */
function faultOf(href: string): Fault | null {
  if (/^www\./i.test(href))
    return {
      what: `${href} lacks its “https://”, so it is looked for in this site.`,
      meant: `https://${href}`,
    }
  const scheme = /^(https?|ftp)(:?)(\/*)(?=[^/])/i.exec(href)
  if (scheme && (scheme[2] !== ':' || scheme[3] !== '//') && /^[a-z]+(:|\/\/)/i.test(href)) {
    const meant = `${scheme[1]}://${href.slice(scheme[0].length)}`
    return { what: `${href} has not “://” after “${scheme[1]}”.`, meant: isUrl(meant) ? meant : null }
  }
  const twice = /^https?:\/\/(?=https?:?\/)/i.exec(href)
  if (twice) return { what: `${href} begins twice.`, meant: href.slice(twice[0].length) }
  if (/^mailto:/i.test(href) && !/^mailto:(\?|[^?@\s]+@[^?@\s]+)/i.test(href))
    return { what: `${href} is no address that mail can be sent to.`, meant: null }
  if (/^https?:/i.test(href) && !isUrl(href))
    return { what: `${href} is no address that exists.`, meant: null }
  // A line break within an attribute is taken out by browsers (URL §4.4), a space is not.
  if (/\S +\S/.test(href) && !/^(data|javascript):/i.test(href))
    return {
      what: `A space stands in ${href}; not every program reads past it.`,
      meant: href.replace(/ /g, '%20'),
    }
  return null
}

/** Addresses that are written wrongly in themselves. */
export const malformedAddress: Rule = {
  id: 'malformed-address',
  grade: 'breaks',
  title: 'Addresses that are written wrongly',
  why: 'A browser makes something of it, and hardly what was meant.',
  reads: 'references',
  find: (references, { was, at }) =>
    references.flatMap((reference) => {
      // Of a list of addresses a space is the end of one.
      const fault = reference.syntax === 'srcset' ? null : faultOf(reference.href)
      if (!fault) return []
      return [
        {
          mark: reference.href,
          place: at(reference),
          what: fault.what,
          mends:
            fault.meant === null
              ? []
              : [{ words: `Write ${fault.meant}`, edits: [edited(reference, fault.meant)], was }],
        },
      ]
    }),
}

const edited = (reference: Reference, href: string) => ({
  start: reference.start,
  end: reference.end,
  text: writeReference(reference, href),
})
