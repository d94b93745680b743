import { createHash } from 'node:crypto'
import type { Transport } from '../transfer/transport'
import { transportOf, type Transports } from '../transfer/transports'
import type { StoredDestination } from './destination-rows'
import { credentialsOf } from './sign-in'

export type OpenDestination = StoredDestination

/** Tells the temporary names of one destination from those of others in the same place. */
export const markOf = (destinationId: string): string =>
  createHash('sha256').update(destinationId).digest('hex').slice(0, 8)

/**
 * Connects to a destination with what is stored of its host, over its own protocol.
 * @param known the transports there are
 */
export async function openDestination(
  destination: OpenDestination,
  signal: AbortSignal,
  known?: Transports,
): Promise<Transport> {
  const { id, webHostId, accountId, host, port, account, folder, hostKey } = destination
  const { open } = transportOf(destination, known)
  const credentials = await credentialsOf({ ...destination, id: webHostId }, accountId)
  return open({ host, port, account, folder, hostKey, ...credentials, mark: markOf(id) }, { signal })
}
