import { createHash } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import { log, pool } from '#server/platform'
import type { Transport } from '../transfer/transport'
import { transportOf, type Transports } from '../transfer/transports'
import type { StoredDestination } from './destination-rows'
import { credentialsOf } from './sign-in'
import { noteTraits } from './web-host-rows'

export type OpenDestination = StoredDestination

/** Tells the temporary names of one destination from those of others in the same place. */
export const markOf = (destinationId: string): string =>
  createHash('sha256').update(destinationId).digest('hex').slice(0, 8)

/**
 * Does something at a destination, connected with what is stored of its host, over its own protocol; what the host
 * showed of itself is kept.
 * @param known the transports there are
 */
export async function atDestination<T>(
  destination: OpenDestination,
  signal: AbortSignal,
  work: (transport: Transport) => Promise<T>,
  known?: Transports,
): Promise<T> {
  const transport = await openDestination(destination, signal, known)
  try {
    return await work(transport)
  } finally {
    await closeDestination(destination, transport)
  }
}

/** Connects to a destination; whoever asks closes it by `closeDestination`. */
export async function openDestination(
  destination: OpenDestination,
  signal: AbortSignal,
  known?: Transports,
): Promise<Transport> {
  const { id, webHostId, accountId, host, port, account, folder, hostKey, traits } = destination
  const { open } = transportOf(destination, known)
  const credentials = await credentialsOf({ ...destination, id: webHostId }, accountId)
  return open({ host, port, account, folder, hostKey, traits, ...credentials, mark: markOf(id) }, { signal })
}

/** Ends the connection, and keeps what the host showed of itself. Never fails. */
export async function closeDestination(
  { id, webHostId, traits: known }: OpenDestination,
  transport: Transport,
): Promise<void> {
  const { traits } = transport
  await transport.close()
  if (isDeepStrictEqual(traits, known)) return
  await noteTraits(pool(), webHostId, traits).catch((error: unknown) =>
    log.warn({ err: error, destinationId: id }, 'keeping what a host showed'),
  )
}
