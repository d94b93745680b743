import { randomUUID } from 'node:crypto'
import { fromOldHost } from '#core/links'
import { Problem } from '#core/problems'
import { noteUnread, takeBroughtFile, waitsForAccount } from '#server/bringing'
import {
  eachOf,
  limitDestinationTests,
  maybeOne,
  notFound,
  pool,
  seal,
  transaction,
  unseal,
} from '#server/platform'
import { insertDestination } from '../places/destination-rows'
import { sealedFor, type SignInForm } from '../places/sign-in'
import { findWebHost, putWebHost } from '../places/web-host-rows'
import type { DestinationForm } from '../places/destinations'
import { markOf } from '../places/open-destination'
import { readTemporary, TransferError, type Transport } from '../transfer/transport'
import { transportOf } from '../transfer/transports'
import { LeftOut } from './left-out'

/** A place that a site is fetched from. */
export type FetchPlace = Omit<DestinationForm, 'name' | keyof SignInForm> & { readonly password: string }

/** Files fetched at once. */
const atOnce = 8

/** What identifies the host of a place, learned without signing in. */
export async function learnPlace(
  accountId: string,
  place: FetchPlace,
  signal?: AbortSignal,
): Promise<string> {
  await limitDestinationTests(accountId)
  return transportOf(place).learnKey(place.host, place.port, { signal })
}

/**
 * Fetches every file below a folder of a host into what waits to be brought in.
 * @param hostKey what its author accepted; nothing secret goes to any other host
 * @param tell told how many files have come, of how many
 * @throws TransferError; Problem `archive-too-large`
 */
export async function fetchSite(
  accountId: string,
  bringingId: string,
  place: FetchPlace,
  hostKey: string,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<number> {
  await limitDestinationTests(accountId)
  if (!(await waitsForAccount(accountId, bringingId))) throw notFound()
  const transport = await transportOf(place).open({ ...place, hostKey, mark: markOf(bringingId) }, { signal })
  try {
    const count = await takeFrom(transport, place.folder, { accountId, bringingId }, null, signal, tell)
    await keepPlace(bringingId, place, hostKey)
    return count
  } finally {
    await transport.close()
  }
}

/**
 * Takes what is below a folder, or those of it that are wanted, into what waits to be brought in. A file that cannot be had
 * is left out, and told with what came: a site is not held back by one that is locked.
 * @returns how many files came
 */
export async function takeFrom(
  transport: Transport,
  folder: string,
  { accountId, bringingId }: { accountId: string; bringingId: string },
  wanted: ReadonlySet<string> | null,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<number> {
  const leftOut = new LeftOut()
  const listed = (await transport.list(leftOut.add)).filter(
    ({ path }) => readTemporary(path) === null && (wanted?.has(path) ?? true),
  )
  if (listed.length === 0) throw new TransferError('not-there', { at: folder || 'A site' })
  const standing = new Set(listed.map(({ path }) => path))
  let [done, came] = [0, 0]
  let failure: unknown = null
  await eachOf(listed, atOnce, async ({ path, sizeBytes }) => {
    signal.throwIfAborted()
    try {
      const called = fromOldHost(path)
      const at = standing.has(called) ? path : called
      if (await takeBroughtFile(accountId, bringingId, at, transport.read(path, sizeBytes))) came += 1
    } catch (error) {
      if (!(error instanceof Problem) || !leftOut.add(path, error)) throw error
      failure = error
    }
    tell(++done, listed.length)
  })
  // Nothing came: that is no site with something left out.
  if (came === 0 && failure !== null) throw failure
  await noteUnread(bringingId, leftOut.told)
  return came
}

const sealedAs = (id: string, place: Omit<FetchPlace, 'password'>) => sealedFor({ id, ...place })

async function keepPlace(bringingId: string, place: FetchPlace, hostKey: string): Promise<void> {
  if (place.publicAddress === '') return
  await pool().query(
    `INSERT INTO bringing_places (bringing_id, protocol, host, port, account, password_sealed, folder, public_address, host_key)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     ON CONFLICT (bringing_id) DO UPDATE SET (protocol, host, port, account, password_sealed, folder, public_address, host_key)
       = (excluded.protocol, excluded.host, excluded.port, excluded.account, excluded.password_sealed, excluded.folder,
          excluded.public_address, excluded.host_key)`,
    [
      bringingId,
      place.protocol,
      place.host,
      place.port,
      place.account,
      seal(place.password, sealedAs(bringingId, place)),
      place.folder,
      place.publicAddress,
      hostKey,
    ],
  )
}

interface KeptPlace extends Omit<FetchPlace, 'password'> {
  readonly passwordSealed: Buffer
  readonly hostKey: string
}

/** Where something that waits was fetched from; null where it came otherwise. */
export const placeOfBringing = (bringingId: string): Promise<KeptPlace | null> =>
  maybeOne<KeptPlace>(
    pool(),
    `SELECT protocol, host, port, account, password_sealed AS "passwordSealed", folder,
       public_address AS "publicAddress", host_key AS "hostKey" FROM bringing_places WHERE bringing_id = $1`,
    [bringingId],
  )

/** Makes the place that a site was fetched from its destination. Nothing is recorded of it yet: the first look reads back. */
export async function sendBackTo(
  bringingId: string,
  place: KeptPlace,
  siteId: string,
  accountId: string,
): Promise<void> {
  const password = unseal(place.passwordSealed, sealedAs(bringingId, place))
  const { protocol, host, port, account, hostKey, folder, publicAddress } = place
  await transaction(async (client) => {
    const known = await findWebHost(client, accountId, place)
    const at = { id: known?.id ?? randomUUID(), protocol, host, port, account }
    const secretSealed = seal(password, sealedFor(at))
    await putWebHost(client, accountId, { ...at, hostKey, signIn: 'password', secretSealed })
    await insertDestination(client, siteId, {
      id: randomUUID(),
      webHostId: at.id,
      name: host,
      folder,
      publicAddress,
    })
  })
}
