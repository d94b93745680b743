import { randomBytes, randomUUID } from 'node:crypto'
import { buffer } from 'node:stream/consumers'
import type { Destination } from './destination-rows'
import {
  deleteDestination,
  findDestination,
  findKnownDestination,
  insertDestination,
  updateDestination,
} from './destination-rows'
import { isBusy } from './hold-rows'
import { Problem } from '#core/problems'
import { limitDestinationTests, notFound, pool, seal, transaction, unseal } from '#server/platform'
import { noteDelivered } from '#server/sites'
import { markOf, sealedFor } from './open-destination'
import { transportOf } from '../transfer/transports'
import {
  type OpenTransport,
  partName,
  readTemporary,
  TransferError,
  type TransferTarget,
  type Transport,
} from '../transfer/transport'

/** What an author says of a destination. */
export interface DestinationForm {
  readonly name: string
  /** One of `transports`. */
  readonly protocol: string
  readonly host: string
  readonly port: number
  readonly account: string
  /** Null keeps the one that is stored, or takes that of the destination it is made like. */
  readonly password: string | null
  readonly folder: string
  readonly publicAddress: string
  /** A destination of another site of the account, at the same place, whose password is this one's too. */
  readonly like?: string | null
}

/** What a test of a destination found. */
export interface DestinationTest {
  readonly hostKey: string
  /** Files there now; null when only the key was looked at, which is all before it is accepted. */
  readonly fileCount: number | null
}

/** Whose destination of which site is spoken of. */
export interface DestinationOwner {
  readonly siteId: string
  readonly accountId: string
}

type Stored = NonNullable<Awaited<ReturnType<typeof findDestination>>>

/** What a form's password may be taken from: what it changes, else what it is made like. */
async function passwordSource(
  form: DestinationForm,
  stored: Stored | null,
  accountId: string,
): Promise<Stored | null> {
  if (stored || !form.like) return stored
  const like = await findKnownDestination(pool(), form.like, accountId)
  if (!like) throw notFound()
  return like
}

async function storedOf(id: string | null, owner: DestinationOwner): Promise<Stored | null> {
  if (id === null) return null
  const found = await findDestination(pool(), id, owner.siteId, owner.accountId)
  if (!found) throw notFound()
  return found
}

const isSamePlace = (form: DestinationForm, stored: Stored) =>
  form.protocol === stored.protocol &&
  form.host === stored.host &&
  form.port === stored.port &&
  form.account === stored.account

/** The password to use: the one typed, or the stored one where it was for this very host and account. */
function passwordOf(form: DestinationForm, stored: Stored | null): string {
  if (form.password !== null) return form.password
  if (!stored) throw new Problem('no-password', null, { detail: { field: 'password' } })
  if (!isSamePlace(form, stored)) throw new Problem('password-again', null, { detail: { field: 'password' } })
  return unseal(stored.passwordSealed, sealedFor(stored))
}

/**
 * Tries a destination. Nothing is stored here.
 * @param acceptedKey the fingerprint the author has seen and accepted; null learns it without signing
 *   in, so that nothing secret goes to a host that may be another
 * @throws Problem with a transfer error's code
 */
export async function testDestination(
  form: DestinationForm,
  id: string | null,
  owner: DestinationOwner,
  acceptedKey: string | null,
  signal?: AbortSignal,
): Promise<DestinationTest> {
  const stored = await storedOf(id, owner)
  await limitDestinationTests(owner.accountId)
  const kind = transportOf(form)
  if (acceptedKey === null)
    return { hostKey: await kind.learnKey(form.host, form.port, { signal }), fileCount: null }
  const target = {
    ...form,
    password: passwordOf(form, await passwordSource(form, stored, owner.accountId)),
    hostKey: acceptedKey,
    mark: markOf(id ?? randomUUID()),
  }
  return { hostKey: acceptedKey, fileCount: await tryPlace(kind.open, target, signal) }
}

/** Signs in, looks into the folder, and writes, reads and removes a small file. Returns the files there. */
async function tryPlace(
  open: OpenTransport,
  target: TransferTarget,
  signal: AbortSignal | undefined,
): Promise<number> {
  const transport = await open(target, { signal })
  try {
    const listed = await transport.list()
    await tryWriting(transport, target.mark)
    return listed.filter((file) => readTemporary(file.path) === null).length
  } finally {
    await transport.close()
  }
}

async function tryWriting(transport: Transport, mark: string): Promise<void> {
  // A name of ours: should this be cut, the next delivery removes it.
  const name = partName('rubricant-test', mark, randomBytes(4).toString('hex'))
  const written = randomBytes(32)
  await transport.put(name, [written])
  const read = await buffer(transport.read(name, written.length))
  await transport.remove(name)
  if (!read.equals(written)) throw new TransferError('other-bytes')
}

const busy = () => new Problem('busy')

/** Tests a destination with the key the author accepted, then stores it; returns its id. */
export async function saveDestination(
  form: DestinationForm,
  id: string | null,
  owner: DestinationOwner,
  acceptedKey: string,
  signal?: AbortSignal,
): Promise<string> {
  const stored = await storedOf(id, owner)
  const password = passwordOf(form, await passwordSource(form, stored, owner.accountId))
  await testDestination({ ...form, password }, id, owner, acceptedKey, signal)
  const known = { ...form, id: id ?? randomUUID() }
  const values = { ...known, hostKey: acceptedKey, passwordSealed: seal(password, sealedFor(known)) }
  await transaction(async (client) => {
    if (!stored) return insertDestination(client, owner.siteId, values)
    if (await isBusy(client, values.id)) throw busy()
    await updateDestination(client, values)
  })
  if (stored) await noteDelivered(owner.siteId, owner.accountId)
  return values.id
}

/**
 * Forgets a destination, the records of what was sent there and the addresses it put into the world.
 * Nothing is removed at the host.
 */
export async function removeDestination(id: string, owner: DestinationOwner): Promise<void> {
  const stored = await storedOf(id, owner)
  if (!stored) return
  await transaction(async (client) => {
    if (await isBusy(client, stored.id)) throw busy()
    await deleteDestination(client, stored.id)
  })
  await noteDelivered(owner.siteId, owner.accountId)
}

export type { Destination }
