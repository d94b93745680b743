import type { Protocol } from '#core/delivery'
import { openFtp } from './ftp'
import { type FtpSecurity, learnFtpKey } from './ftp-connection'
import { openSftp } from './sftp'
import { learnHostKey } from './sftp-connection'
import type { OpenTransport, TransferOptions } from './transport'

/** A protocol that sites can be delivered over. */
export interface TransportKind {
  /** What identifies the host, learned without signing in, so that nothing secret goes to a host that may be another. */
  readonly learnKey: (host: string, port: number, options: TransferOptions) => Promise<string>
  readonly open: OpenTransport
}

/** Transports by the name of their protocol. */
export type Transports = Readonly<Record<string, TransportKind>>

const ftp = (security: FtpSecurity): TransportKind => ({
  learnKey: (host, port, options) => learnFtpKey({ host, port, security }, options),
  open: openFtp(security),
})

/** Every transport; each keeps the contract of `Transport`. */
export const transports = {
  sftp: { learnKey: learnHostKey, open: openSftp },
  ftps: ftp('explicit'),
  'ftps-implicit': ftp('implicit'),
  ftp: ftp('none'),
} satisfies Record<Protocol, TransportKind>

/** The transport of a destination: the one place where it is chosen. */
export function transportOf(
  { protocol }: { readonly protocol: string },
  known: Transports = transports,
): TransportKind {
  const kind = Object.hasOwn(known, protocol) ? known[protocol] : undefined
  if (!kind) throw new Error(`No transport speaks ${protocol}`)
  return kind
}
