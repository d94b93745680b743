import { lookup } from 'node:dns/promises'
import net from 'node:net'

/** A place outside that this server may connect to although its range is refused otherwise. */
export interface AllowedPlace {
  readonly host: string
  readonly port: number
}

/** Which addresses outgoing connections may reach. */
export interface OutgoingRules {
  /** True lets every address through: for a server in a closed network that delivers within it. */
  readonly privateRanges: boolean
  readonly allowed: readonly AllowedPlace[]
}

/**
 * Ranges that are no public host (IANA special-purpose registries, RFC 6890): this machine, private
 * and link-local networks, documentation, multicast, and IPv6 forms that carry an IPv4 address, which
 * are judged by the address they carry.
 */
// Two lists: one of both takes an IPv4 address for the IPv6 one that would carry it.
const closed = { ipv4: new net.BlockList(), ipv6: new net.BlockList() }
for (const [address, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.88.99.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  closed.ipv4.addSubnet(address, bits, 'ipv4')
for (const [address, bits] of [
  ['::', 96],
  ['::ffff:0:0', 96],
  ['64:ff9b::', 96],
  ['64:ff9b:1::', 48],
  ['100::', 64],
  ['2001::', 23],
  ['2001:db8::', 32],
  ['2002::', 16],
  ['fc00::', 7],
  ['fe80::', 10],
  ['fec0::', 10],
  ['ff00::', 8],
] as const)
  closed.ipv6.addSubnet(address, bits, 'ipv6')

/** Whether an address in any spelling the system understands is a public one. */
export function isPublicAddress(address: string): boolean {
  const plain = address.split('%')[0]!
  const family = net.isIP(plain)
  if (family === 0) return false
  return family === 4 ? !closed.ipv4.check(plain, 'ipv4') : !closed.ipv6.check(plain, 'ipv6')
}

/**
 * Addresses of a host that may be reached: judged after the name was resolved, so that a name or an
 * unusual spelling (`127.1`, `::ffff:10.0.0.1`) that leads inside is refused like what it leads to.
 */
export async function reachableAddresses(
  host: string,
  port: number,
  rules: OutgoingRules,
): Promise<string[]> {
  const bare = host.replace(/^\[|\]$/g, '')
  const found = await lookup(bare, { all: true })
  const exempt = rules.allowed.some((place) => place.host === bare && place.port === port)
  return found
    .map(({ address }) => address)
    .filter((address) => rules.privateRanges || exempt || isPublicAddress(address))
}

/**
 * A connected socket to one of the host's allowed addresses, tried in the order the system gives.
 * Rejects with whatever the last one failed with, or when the signal is aborted.
 */
export async function dial(
  host: string,
  port: number,
  rules: OutgoingRules,
  signal: AbortSignal,
): Promise<net.Socket> {
  const aborted = new Promise<never>((_, reject) => {
    if (signal.aborted) reject(signal.reason as Error)
    else signal.addEventListener('abort', () => reject(signal.reason as Error), { once: true })
  })
  aborted.catch(() => {})
  const addresses = await Promise.race([reachableAddresses(host, port, rules), aborted])
  let last: unknown = new Error('No address that may be reached')
  for (const address of addresses) {
    const socket = net.connect({ host: address, port, noDelay: true })
    // Stays for the socket's whole life: an error nobody listens for would end the process.
    socket.on('error', () => {})
    try {
      await Promise.race([
        new Promise<void>((resolve, reject) => {
          socket.once('connect', resolve)
          socket.once('error', reject)
          socket.once('close', () => reject(new Error('closed')))
        }),
        aborted,
      ])
      return socket
    } catch (error) {
      socket.destroy()
      last = error
      if (signal.aborted) break
    }
  }
  throw last
}
