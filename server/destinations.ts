import type { Destination, DestinationValues } from './database/destinations'
import {
  deleteDestination,
  findDestination,
  insertDestination,
  updateDestination,
} from './database/destinations'
import { pool, transaction } from './database/pool'
import { notFound, Problem } from './problem'
import { seal, unseal } from './secrets'
import { openSftp } from './transfer/sftp'
import { TransferError } from './transfer/transport'

/** What an author says of a destination. */
export interface DestinationForm {
  readonly name: string
  readonly host: string
  readonly port: number
  readonly account: string
  /** Null keeps the one that is stored. */
  readonly password: string | null
  readonly folder: string
  readonly publicAddress: string
}

/** What a test of a destination found. */
export interface DestinationTest {
  readonly hostKey: string
  readonly fileCount: number
}

async function passwordOf(form: DestinationForm, known: { passwordSealed: Buffer } | null): Promise<string> {
  if (form.password !== null) return form.password
  if (known) return unseal(known.passwordSealed)
  throw new Problem('no-password', 'Enter the password.')
}

const known = async (id: string | null, siteId: string, accountId: string) => {
  if (id === null) return null
  const found = await findDestination(pool(), id, siteId, accountId)
  if (!found) throw notFound()
  return found
}

/**
 * Connects, signs in and looks into the folder. Nothing is stored.
 * @param acceptedKey the fingerprint the author has seen and accepted, or null to be shown it
 */
export async function testDestination(
  form: DestinationForm,
  id: string | null,
  siteId: string,
  accountId: string,
  acceptedKey: string | null,
): Promise<DestinationTest> {
  const password = await passwordOf(form, await known(id, siteId, accountId))
  try {
    const transport = await openSftp({ ...form, password, hostKey: acceptedKey })
    try {
      return { hostKey: transport.hostKey, fileCount: (await transport.list()).length }
    } finally {
      await transport.close()
    }
  } catch (error) {
    if (error instanceof TransferError) throw new Problem(error.code, error.message, 422)
    throw error
  }
}

/** Tests a destination with the key the author accepted, then stores it; returns its id. */
export async function saveDestination(
  form: DestinationForm,
  id: string | null,
  siteId: string,
  accountId: string,
  acceptedKey: string,
): Promise<string> {
  const before = await known(id, siteId, accountId)
  const password = await passwordOf(form, before)
  await testDestination({ ...form, password }, id, siteId, accountId, acceptedKey)
  const values: DestinationValues = { ...form, hostKey: acceptedKey, passwordSealed: seal(password) }
  return transaction(async (client) => {
    if (before === null) return insertDestination(client, siteId, values)
    await updateDestination(client, before.id, values)
    return before.id
  })
}

/** Forgets a destination and the records of what was sent there. Nothing is removed at the host. */
export async function removeDestination(id: string, siteId: string, accountId: string): Promise<void> {
  const found = await known(id, siteId, accountId)
  if (found) await deleteDestination(pool(), found.id)
}

export type { Destination }
