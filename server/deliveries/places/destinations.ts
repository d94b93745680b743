import { randomUUID } from 'node:crypto'
import { type HostTraits, ownFolder } from '#core/delivery'
import { Problem } from '#core/problems'
import type { Site } from '#core/site'
import { limitDestinationTests, notFound, pool, seal, transaction } from '#server/platform'
import { noteDelivered } from '#server/sites'
import { readTemporary } from '../transfer/transport'
import { transportOf } from '../transfer/transports'
import {
  deleteDestination,
  findDestination,
  insertDestination,
  type StoredDestination,
  updateDestination,
} from './destination-rows'
import { tryPlace } from './find-traits'
import { isBusy } from './hold-rows'
import { markOf } from './open-destination'
import { type Credentials, credentialsFrom, sealedFor, secretText, type SignInForm } from './sign-in'
import {
  deleteUnusedWebHosts,
  findWebHost,
  type HostPlace,
  listKnownHosts,
  putWebHost,
  type WebHost,
} from './web-host-rows'

/** What an author says of a destination; how to sign in is asked for once a place. */
export interface DestinationForm extends HostPlace, SignInForm {
  readonly name: string
  readonly folder: string
  readonly publicAddress: string
}

/** What a test of a destination found. */
export interface DestinationTest {
  readonly hostKey: string
  /** Files there now; null when only the key was looked at, which is all before it is accepted. */
  readonly fileCount: number | null
  /** What the host showed of itself while it was tried. */
  readonly traits: HostTraits
}

/** Whose destination of which site is spoken of. */
export interface DestinationOwner {
  readonly siteId: string
  /** Who asks. */
  readonly accountId: string
  /** Whose web hosts the site goes to: its owner's, also where a partner asks. */
  readonly hostsOf?: string
}

const hostsOf = (owner: DestinationOwner) => owner.hostsOf ?? owner.accountId

export async function storedOf(
  id: string | null,
  owner: DestinationOwner,
): Promise<StoredDestination | null> {
  if (id === null) return null
  const found = await findDestination(pool(), id, owner.siteId, owner.accountId)
  if (!found) throw notFound()
  return found
}

/**
 * What a form signs in with: what is typed, else what the site's owner has at this very place, and at no other. A partner
 * uses what opens the site's own destination, and nothing else of the owner's.
 * @throws Problem `owners-key`, and those of `credentialsFrom`
 */
export async function credentialsFor(
  form: DestinationForm,
  stored: StoredDestination | null,
  owner: DestinationOwner,
): Promise<Credentials> {
  const known = await findWebHost(pool(), hostsOf(owner), form)
  const isOwn = owner.accountId === hostsOf(owner) || (known !== null && known.id === stored?.webHostId)
  if (!isOwn && form.signIn === 'made-key') throw new Problem('owners-key')
  return credentialsFrom(form, hostsOf(owner), isOwn ? known : null, stored !== null)
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
    return { hostKey: await kind.learnKey(form.host, form.port, { signal }), fileCount: null, traits: {} }
  const mark = markOf(id ?? randomUUID())
  const credentials = await credentialsFor(form, stored, owner)
  const transport = await kind.open({ ...form, ...credentials, hostKey: acceptedKey, mark }, { signal })
  try {
    const listed = await transport.list()
    const traits = await tryPlace(transport, mark)
    const fileCount = listed.filter((file) => readTemporary(file.path) === null).length
    return { hostKey: acceptedKey, fileCount, traits }
  } finally {
    await transport.close()
  }
}

const busy = () => new Problem('busy')

/**
 * Tests a destination with the key the author accepted, then stores it; returns its id. What signs in belongs to the
 * account's web host: whatever it is now, it is for all destinations there.
 */
export async function saveDestination(
  form: DestinationForm,
  id: string | null,
  owner: DestinationOwner,
  acceptedKey: string,
  signal?: AbortSignal,
): Promise<string> {
  const stored = await storedOf(id, owner)
  const accountId = hostsOf(owner)
  const credentials = await credentialsFor(form, stored, owner)
  const asTyped = { ...form, ...typed(credentials) }
  const { traits } = await testDestination(asTyped, id, owner, acceptedKey, signal)
  const { name, folder, publicAddress } = form
  const destinationId = id ?? randomUUID()
  await transaction(async (client) => {
    if (stored && (await isBusy(client, destinationId))) throw busy()
    const known = await findWebHost(client, accountId, form)
    const host = webHostOf(form, known?.id ?? randomUUID(), credentials, acceptedKey)
    await putWebHost(client, accountId, host, traits)
    const values = { id: destinationId, webHostId: host.id, name, folder, publicAddress }
    if (!stored) return insertDestination(client, owner.siteId, values)
    await updateDestination(client, values)
    await deleteUnusedWebHosts(client, accountId)
  })
  if (stored) await noteDelivered(owner.siteId, accountId)
  return destinationId
}

/** What was found to sign in with, as though it had been typed: it is not looked up twice. */
const typed = ({ password, privateKey }: Credentials): SignInForm =>
  privateKey
    ? { signIn: 'own-key', password: null, privateKey: privateKey.key, passphrase: privateKey.passphrase }
    : { signIn: 'password', password }

function webHostOf(form: DestinationForm, id: string, credentials: Credentials, hostKey: string): WebHost {
  const { protocol, host, port, account, signIn = 'password' } = form
  const place = { id, protocol, host, port, account }
  return { ...place, signIn, hostKey, secretSealed: seal(secretText(credentials, signIn), sealedFor(place)) }
}

/**
 * Makes a folder at a web host, which another site of the account uses already, a site's destination: a folder of its own
 * below the one that is known.
 */
export async function addKnownHost(
  hostId: string,
  site: Pick<Site, 'id' | 'name'>,
  owner: DestinationOwner,
  signal?: AbortSignal,
): Promise<string> {
  const known = (await listKnownHosts(pool(), hostsOf(owner), site.id)).find((one) => one.id === hostId)
  if (!known || hostsOf(owner) !== owner.accountId) throw notFound()
  const { name, protocol, host, port, account, signIn, hostKey } = known
  const form = { name, protocol, host, port, account, signIn, password: null, ...ownFolder(known, site.name) }
  return saveDestination(form, null, owner, hostKey, signal)
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
    await deleteUnusedWebHosts(client, hostsOf(owner))
  })
  await noteDelivered(owner.siteId, owner.accountId)
}
