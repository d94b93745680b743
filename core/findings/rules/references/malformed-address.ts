import { resolveReference } from '#core/links'
import { type Reference, writeReference } from '#core/markup'
import type { FindingContext, Rule } from '../../rule'

interface Fault {
  readonly what: string
  /** What was meant; null where that is not sure. */
  readonly meant: string | null
  /** Whether something else than a page or file of this site was meant. */
  readonly isOutside?: true
}

const isUrl = (href: string) => URL.canParse(href)

const mailAddress = /^[^\s@/?#:]+@[^\s@/?#:]+\.[a-z]{2,}$/i
/** A number as it is dialled, from the country or from the trunk on, however it is set (RFC 3966 §5.1.1). */
const telephone = /^(?:\+|0)[\d\s()/.-]*$/

/** What a link that leads nowhere may be instead: to whom one writes, or whom one calls. */
function personIn(href: string): Fault | null {
  if (mailAddress.test(href))
    return {
      what: `${href} is looked for in this site: what opens a letter to it begins with “mailto:”.`,
      meant: `mailto:${href}`,
      isOutside: true,
    }
  const digits = href.replace(/[^\d+]/g, '')
  if (!telephone.test(href) || digits.length < 6) return null
  return {
    what: `${href} is looked for in this site: what calls a number begins with “tel:”.`,
    meant: `tel:${digits}`,
    isOutside: true,
  }
}

/** What is wrong with an address by itself, or with one that leads nowhere in this site; null for a right one. */
export function faultOf(
  { href, holder }: Reference,
  from: string,
  { names, homeFile }: Pick<FindingContext, 'names' | 'homeFile'>,
): Fault | null {
  const isLink = /^(a|area) href$/.test(holder)
  const person = isLink ? personIn(href.trim()) : null
  if (person && resolveReference(href, from, names, homeFile).kind === 'missing') return person
  return faultIn(href)
}

/** What is wrong with an address by itself (RFC 3986, RFC 6068); null for a right one. */
function faultIn(href: string): Fault | null {
  if (/^www\./i.test(href))
    return {
      what: `${href} lacks its “https://”, so it is looked for in this site.`,
      meant: `https://${href}`,
      isOutside: true,
    }
  const scheme = /^(https?|ftp)(:?)(\/*)(?=[^/])/i.exec(href)
  if (scheme && (scheme[2] !== ':' || scheme[3] !== '//') && /^[a-z]+(:|\/\/)/i.test(href)) {
    const meant = `${scheme[1]}://${href.slice(scheme[0].length)}`
    const what = `${href} has not “://” after “${scheme[1]}”.`
    return { what, meant: isUrl(meant) ? meant : null, isOutside: true }
  }
  const twice = /^https?:\/\/(?=https?:?\/)/i.exec(href)
  if (twice) return { what: `${href} begins twice.`, meant: href.slice(twice[0].length) }
  // A mailbox by its name is what a letter's head has; an address has the mailbox alone (RFC 6068 §2).
  const named =
    /^mailto:\s*(?:([^\s?@<>]+@[^\s?@<>]+?)\s+[^\s?][^?]*|[^<>?]*<([^\s?@<>]+@[^\s?@<>]+)>\s*)$/i.exec(href)
  const mailbox = named && (named[1] ?? named[2]!)
  if (mailbox && mailAddress.test(mailbox))
    return {
      what: `${href} names who has the address, too; not every program reads past it.`,
      meant: `mailto:${mailbox}`,
    }
  if (/^mailto:/i.test(href) && !/^mailto:(\?|[^?@\s]+@[^?@\s]+)/i.test(href)) {
    const address = href.slice('mailto:'.length).trim()
    const meant = mailAddress.test(address) ? `mailto:${address}` : null
    return { what: `${href} is no address that mail can be sent to.`, meant }
  }
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
  find: (references, { from, was, at }, context) =>
    references.flatMap((reference) => {
      // Of a list of addresses a space is the end of one.
      const fault = reference.syntax === 'srcset' ? null : faultOf(reference, from, context)
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
