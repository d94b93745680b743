import { isOfAnother, type Told, toldBy } from './letter-words'
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

/** A line as a label and what it says: `Server: ftp.example.org`, `User name = keeper`, columns of a table, “the user name is keeper”. */
interface Parts {
  readonly label: string
  readonly value: string
  /** Whether it is a sentence, which may go on to say something else. */
  readonly isSaid: boolean
}

function partsOf(line: string): Parts | null {
  const match =
    /^[\s>*•|-]*(\p{L}[\p{L}\p{M}\p{N} /&'’()-]{1,40}?)\s*([:=|：]|\t| {2,}|\b(?:is|lautet|est|es)\b)\s*(\S.*)$/u.exec(
      line,
    )
  if (!match) return null
  let end = match[3]!.length
  while (end > 0 && /[\s|]/.test(match[3]![end - 1]!)) end--
  const isSaid = /^\p{L}/u.test(match[2]!)
  const value = match[3]!.slice(0, end)
  return { label: match[1]!, value: isSaid ? value.replace(/[.,;]+$/, '') : value, isSaid }
}

/** What is no name or secret, though a sentence says it of one: “your password is confidential”. */
const isNoName = (value: string): boolean =>
  /\s/.test(value) ||
  /^(?:active|activated|bereit|case-sensitive|confidential|enabled|geheim|not|now|personal|ready|required|secret|set|the|up|valid|your)$/i.test(
    value,
  )

/** Clauses of a line: what a sentence says one after the other. */
const clausesOf = (line: string): string[] =>
  line
    .split(/[.;,](?=\s)|\s(?=(?:and|und|et|y|e|en|och|og|i)\s)/u)
    .map((clause) => clause.replace(/^\s*(?:and|und|et|y|e|en|och|og|i)\s/u, ''))

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

/** A command that whoever signs in by hand types: `ssh -p 2222 keeper@host.example`, `scp a keeper@host.example:public`. */
function ofCommand(line: string): FoundPlace | null {
  const tool = /\b(sftp|ssh|scp|rsync)\s/i.exec(line)
  if (!tool) return null
  const rest = line.slice(tool.index)
  const at = new RegExp(`(?:^|\\s)([\\w.+-]{1,64})@(${hostName.source})(?::([^\\s'"),;]{1,300}))?`, 'i').exec(
    rest,
  )
  if (!at) return null
  const port = portIn(/\s-(?:p|P|oPort=)\s*(\d{1,5})\b/.exec(rest)?.[1])
  const folder = at[3]?.replace(/\/+$/, '')
  return {
    protocol: 'sftp',
    account: at[1]!,
    host: at[2]!,
    ...(port !== undefined && { port }),
    ...(folder && { folder }),
  }
}

const quotes = /["'“”„‘’`<>]/
/** A value without quotation marks around it. */
function unquoted(value: string): string {
  let [start, end] = [0, value.length]
  while (start < end && quotes.test(value[start]!)) start++
  while (end > start && quotes.test(value[end - 1]!)) end--
  return value.slice(start, end).trim()
}

/** A port that can be one (RFC 6335 §6). */
const portIn = (digits: string | undefined): number | undefined =>
  digits !== undefined && Number(digits) > 0 && Number(digits) <= 65_535 ? Number(digits) : undefined

/**
 * Finds in what a host wrote what a destination needs: an address or a command that says it all, lines with a label (in
 * any of the languages of `letter-words.ts`, the value beside it or on the line below), or sentences. What it does not say is
 * left open; nothing is guessed beyond that.
 */
export function readHostLetter(letter: string): FoundPlace {
  const text = letter.slice(0, longestLetter).replace(/\u00a0/g, ' ')
  const lines = text.split(/\r?\n/)
  const found: Found = { ...ofAddress(text) }
  for (const line of lines) {
    const command = ofCommand(line)
    if (command) {
      Object.assign(found, { ...command, ...found })
      break
    }
  }
  const filled = lines.filter((line) => line.trim() !== '')
  for (const [index, line] of filled.entries()) {
    const parts = partsOf(line)
    const told = parts && toldBy(parts.label)
    if (parts && told && !parts.isSaid) take(found, told, parts)
    else if (isElsewhere(parts)) continue
    else {
      // A label by itself, and its value on the line below.
      const alone = line.trim().replace(/[:：]$/, '')
      const below = filled[index + 1]?.trim() ?? ''
      const ofLine = alone.length <= 40 && !/[.!?]$/.test(alone) ? toldBy(alone) : null
      if (ofLine && !parts && (toldBy(below) === null || hostName.test(below)) && !/[:：]$/.test(below))
        take(found, ofLine, { label: alone, value: below, isSaid: true })
      for (const clause of clausesOf(line)) {
        const said = partsOf(clause)
        const ofClause = said && toldBy(said.label)
        if (said && ofClause) take(found, ofClause, said)
      }
    }
  }
  const own = lines.filter((line) => !isElsewhere(partsOf(line))).join('\n')
  found.publicAddress ??= /\bhttps?:\/\/(?!web-?mail|mail\.|login|my\.|\w*panel|support|help)[^\s<>"')]+/i
    .exec(own)?.[0]
    .replace(/[.,;]+$/, '')
  // A sentence: “connect to web4.host.example by SFTP, on port 2222”.
  found.host ??= /\b(?:to|at|on|host|server)\s+((?:[a-z0-9-]+\.)+[a-z]{2,})/i.exec(own)?.[1]
  found.port ??= portIn(/\b(?:port|poort|puerto)\s+(\d{2,5})\b/i.exec(own)?.[1])
  found.protocol ??= protocolIn(own) ?? undefined
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined))
}

/** Whether a line says something of a service other than a web space. */
const isElsewhere = (parts: Parts | null): boolean =>
  parts !== null && !parts.isSaid && isOfAnother(parts.label)

type Found = { -readonly [K in keyof FoundPlace]: FoundPlace[K] }

/** Takes what a label says of something, where nothing else has said it. */
function take(found: Found, told: Told, { label, value: written, isSaid }: Parts): void {
  const value = unquoted(written)
  if (value === '') return
  switch (told) {
    case 'host': {
      const [name] = hostName.exec(value) ?? []
      // A number may stand beside its name, and says less.
      if (name && (found.host === undefined || isNumber(found.host))) found.host = name
      const [, port] = /:(\d{2,5})\b/.exec(value) ?? []
      if (!/:\/\//.test(value)) found.port ??= portIn(port)
      // `SFTP server` says both.
      found.protocol ??= protocolIn(label) ?? undefined
      break
    }
    case 'port':
      found.port ??= portIn(/\d{1,5}/.exec(value)?.[0])
      found.protocol ??= protocolIn(label) ?? undefined
      break
    case 'account':
      if (!value.includes('://') && (!isSaid || !isNoName(value))) found.account ??= value.split(/\s/)[0]!
      break
    case 'password':
      // Dots in its place are no password.
      if ((!isSaid || !isNoName(value)) && !/^[•*●·]+$/.test(value)) found.password ??= value
      break
    case 'protocol':
      found.protocol = protocolIn(value) ?? found.protocol
      break
    case 'folder': {
      const [folder] = /^\S*/.exec(value)!
      if (!isSaid || /[/_]|^(?:www|html|htdocs|public)/i.test(folder))
        found.folder ??= folder.replace(/(?<=.)\/+$/, '')
      break
    }
    case 'publicAddress':
      found.publicAddress ??= addressIn(value) ?? undefined
  }
}

const isNumber = (host: string): boolean => /^[\d.]+$/.test(host)

function addressIn(value: string): string | null {
  const [full] = /\bhttps?:\/\/\S+/i.exec(value) ?? []
  if (full) return full.replace(/[.,;]+$/, '')
  const [name] = hostName.exec(value) ?? []
  return name ? `https://${name}/` : null
}
