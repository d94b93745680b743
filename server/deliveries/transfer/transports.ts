import { openSftp } from './sftp'
import { learnHostKey } from './sftp-connection'
import type { OpenTransport, TransferOptions } from './transport'

/** A protocol that sites can be delivered over. */
export interface TransportKind {
  /** As it is called. */
  readonly title: string
  readonly usualPort: number
  /** What identifies the host, learned without signing in, so that nothing secret goes to a host that may be another. */
  readonly learnKey: (host: string, port: number, options: TransferOptions) => Promise<string>
  readonly open: OpenTransport
}

/** Transports by the name of their protocol. */
export type Transports = Readonly<Record<string, TransportKind>>

/** Every transport; each keeps the contract of `Transport`. */
export const transports = {
  sftp: { title: 'SFTP', usualPort: 22, learnKey: learnHostKey, open: openSftp },
} satisfies Transports

/** The transport of a destination: the one place where it is chosen. */
export function transportOf(
  { protocol }: { readonly protocol: string },
  known: Transports = transports,
): TransportKind {
  const kind = known[protocol]
  if (!kind) throw new Error(`No transport speaks ${protocol}`)
  return kind
}
