/**
 * The address of a site as its author types it, in the one form in which it is kept: http or https, no query and no
 * fragment, ending in a slash; a home file at its end stands for its folder. Null for what is no such address.
 */
export function publicAddressOf(typed: string): string | null {
  const text = typed.trim()
  const whole = /^[a-z][a-z0-9+.-]*:\/\//i.test(text) ? text : `https://${text}`
  if (!URL.canParse(whole)) return null
  const { protocol, host, hostname, pathname } = new URL(whole)
  if (!/^https?:$/.test(protocol) || !/[.:]|^localhost$/.test(hostname)) return null
  const folder = /\/(?:index|default|home|welcome)\.\w+$/i.test(pathname)
    ? pathname.slice(0, pathname.lastIndexOf('/'))
    : pathname
  return `${protocol}//${host}${folder.replace(/\/*$/, '/')}`
}

/** A reference that names something of its site by the site's public address. */
export interface OwnAddress {
  /** What says that it is this site, as it is written: `https://skerry.example/light`, without a slash at its end. */
  readonly base: string
  /** The rest, as a reference from the top of the site: `/fowl.html#auk`. */
  readonly href: string
}

const scheme = /^(?:https?:)?\/\//i

/**
 * A reference with the site's own address written out, taken apart; null for any other. A site is one and the same place
 * with and without the “s”, and a host's name is one in any case (RFC 3986 §6.2.2.1).
 * @param address the site's public address, as `publicAddressOf` has it; '' for none
 */
export function readOwnAddress(href: string, address: string): OwnAddress | null {
  if (address === '') return null
  const lead = scheme.exec(href)?.[0].length
  if (lead === undefined) return null
  const own = address.slice(address.indexOf('//') + 2, -1)
  const hostEnds = own.indexOf('/') < 0 ? own.length : own.indexOf('/')
  const end = lead + own.length
  if (href.slice(lead, lead + hostEnds).toLowerCase() !== own.slice(0, hostEnds)) return null
  if (href.slice(lead + hostEnds, end) !== own.slice(hostEnds)) return null
  const rest = href.slice(end)
  if (rest !== '' && !/^[/?#]/.test(rest)) return null
  return { base: href.slice(0, end), href: `/${rest.replace(/^\/+/, '')}` }
}
