import type { Protocol } from './protocols'

/** What was found in what a host wrote; only what it says. */
export interface FoundPlace {
  readonly protocol?: Protocol
  readonly host?: string
  readonly port?: number
  readonly account?: string
  readonly password?: string
  readonly folder?: string
  readonly publicAddress?: string
}

/** Letters that are read: more is no letter about one web space. */
const longestLetter = 20_000

const hostName = /(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?\.)+[a-z][a-z0-9-]*[a-z0-9]|\d{1,3}(?:\.\d{1,3}){3}/i

/** Words in front of a value, as hosts write them. */
const labelled = {
  host: /^(?:s?ftp[- ]?)?(?:server|host|hostname|host ?name|server ?name|server ?address|address of the server)(?: name| address)?$/,
  port: /^(?:s?ftp[- ]?|ssh[- ]?)?port$/,
  account: /^(?:(?:s?ftp|ssh)[- ]?)?(?:user|username|user ?name|account|account ?name|login|log-?in ?name)$/,
  password: /^(?:(?:s?ftp|ssh)[- ]?)?(?:password|pass|passphrase)$/,
  folder:
    /^(?:(?:web|public|document|remote|start|home|upload|target)[- ]?)*(?:folder|directory|path|root|documents?)$/,
  publicAddress:
    /^(?:your )?(?:(?:web ?site|web|public|site|home ?page)[- ]?)*(?:address|url|site|domain|home ?page)$/,
  protocol: /^(?:protocol|connection|encryption|transfer|type)(?: type)?$/,
} as const

/** A line as a label and what it says: `Server: ftp.example.org`, `User name = keeper`, columns of a table. */
function partsOf(line: string): { label: string; value: string } | null {
  const match = /^[\s>*•|-]*([A-Za-z][\w /-]{1,40}?)\s*(?:[:=|]|\t| {2,}|\bis\b)\s*(\S.*?)[\s|]*$/.exec(line)
  if (!match) return null
  return { label: match[1]!.toLowerCase().replace(/\s+/g, ' '), value: match[2]! }
}

/** What a word says of the protocol; null where it says nothing. */
function protocolIn(text: string): Protocol | null {
  if (/\bsftp\b|\bssh\b/i.test(text)) return 'sftp'
  if (/\bimplicit\b/i.test(text)) return 'ftps-implicit'
  if (/\bftps\b|\bftpes\b|ftp (?:over|with) (?:explicit )?(?:tls|ssl)|\bexplicit\b|\b(?:tls|ssl)\b/i.test(text)) return 'ftps'
  return /\bftp\b/i.test(text) ? 'ftp' : null
} // prettier-ignore

const schemes: Readonly<Record<string, Protocol>> = {
  'sftp:': 'sftp',
  'ssh:': 'sftp',
  'ftps:': 'ftps-implicit',
  'ftpes:': 'ftps',
  'ftp:': 'ftp',
}

const decoded = (text: string): string => {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

/** An address that says it all: `sftp://keeper@host.example:2222/public` (RFC 3986; RFC 1738 §3.2 for FTP). */
function ofAddress(text: string): FoundPlace | null {
  const match = /\b(sftp|ssh|ftpe?s|ftp):\/\/[^\s<>"']+/i.exec(text)
  if (!match) return null
  let url: URL
  try {
    url = new URL(match[0].replace(/[.,;)]+$/, ''))
  } catch {
    return null
  }
  const folder = decoded(url.pathname).replace(/\/+$/, '')
  return {
    protocol: schemes[url.protocol.toLowerCase()]!,
    host: url.hostname.replace(/^\[|\]$/g, ''),
    ...(url.port !== '' && { port: Number(url.port) }),
    ...(url.username !== '' && { account: decoded(url.username) }),
    ...(url.password !== '' && { password: decoded(url.password) }),
    // From where the account stands, as FTP means it.
    ...(folder !== '' && { folder: folder.replace(/^\//, '') }),
  }
}

const unquoted = (value: string) => value.replace(/^["'“„‘`<]+|["'”“’`>]+$/g, '').trim()

/** A port that can be one (RFC 6335 §6). */
const portIn = (digits: string | undefined): number | undefined =>
  digits !== undefined && Number(digits) > 0 && Number(digits) <= 65_535 ? Number(digits) : undefined

/**
 * Finds in what a host wrote what a destination needs: an address that says it all, lines with a label, or a
 * sentence that names a host. What it does not say is left open; nothing is guessed beyond that.
 */
export function readHostLetter(letter: string): FoundPlace {
  const text = letter.slice(0, longestLetter).replace(/\u00a0/g, ' ')
  const found: { -readonly [K in keyof FoundPlace]: FoundPlace[K] } = { ...ofAddress(text) }
  for (const line of text.split(/\r?\n/)) {
    const parts = partsOf(line)
    if (!parts) continue
    const { label } = parts
    const value = unquoted(parts.value)
    if (value === '') continue
    if (labelled.host.test(label)) {
      const [name] = hostName.exec(value) ?? []
      if (name) found.host ??= name
      const [, port] = /:(\d{2,5})\b/.exec(value) ?? []
      if (!/:\/\//.test(value)) found.port ??= portIn(port)
      // `SFTP server` says both.
      found.protocol ??= protocolIn(label) ?? undefined
    } else if (labelled.port.test(label)) {
      found.port ??= portIn(/\d{1,5}/.exec(value)?.[0])
      found.protocol ??= protocolIn(label) ?? undefined
    } else if (labelled.account.test(label)) found.account ??= value.split(/\s/)[0]!
    else if (labelled.password.test(label)) found.password ??= value
    else if (labelled.protocol.test(label)) found.protocol = protocolIn(value) ?? found.protocol
    else if (labelled.folder.test(label)) {
      const [folder] = /^\S*/.exec(value)!
      found.folder ??= folder.replace(/\/+$/, '')
    } else if (labelled.publicAddress.test(label)) found.publicAddress ??= addressIn(value) ?? undefined
  }
  found.publicAddress ??= /\bhttps?:\/\/[^\s<>"')]+/i.exec(text)?.[0].replace(/[.,;]+$/, '')
  // A sentence: “connect to web4.host.example by SFTP”.
  found.host ??= /\b(?:to|at|on|host|server)\s+((?:[a-z0-9-]+\.)+[a-z]{2,})/i.exec(text)?.[1]
  found.protocol ??= protocolIn(text) ?? undefined
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined))
}

function addressIn(value: string): string | null {
  const [full] = /\bhttps?:\/\/\S+/i.exec(value) ?? []
  if (full) return full.replace(/[.,;]+$/, '')
  const [name] = hostName.exec(value) ?? []
  return name ? `https://${name}/` : null
}
