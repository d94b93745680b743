import { createHash } from 'node:crypto'
import type { Destination } from './destination-rows'
import { unseal } from '#server/platform'
import type { Transport } from '../transfer/transport'
import { transportOf, type Transports } from '../transfer/transports'

export type OpenDestination = Destination & { passwordSealed: Buffer }

/** Tells the temporary names of one destination from those of others in the same place. */
export const markOf = (destinationId: string): string =>
  createHash('sha256').update(destinationId).digest('hex').slice(0, 8)

/** What a destination's password is sealed for: it opens for no other host, port or account, and in no other protocol. */
export const sealedFor = (
  place: Pick<Destination, 'id' | 'protocol' | 'host' | 'port' | 'account'>,
): string =>
  [
    'destination',
    place.id,
    place.host,
    place.port,
    place.account,
    // From before there were others.
    ...(place.protocol === 'sftp' ? [] : [place.protocol]),
  ].join('\n')

/**
 * Connects to a destination with what is stored of it, over its own protocol.
 * @param known the transports there are
 */
export function openDestination(
  destination: OpenDestination,
  signal: AbortSignal,
  known?: Transports,
): Promise<Transport> {
  const { id, host, port, account, folder, hostKey, passwordSealed } = destination
  const password = unseal(passwordSealed, sealedFor(destination))
  const { open } = transportOf(destination, known)
  return open({ host, port, account, folder, hostKey, password, mark: markOf(id) }, { signal })
}
