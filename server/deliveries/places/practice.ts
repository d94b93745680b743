import { createHash, createHmac } from 'node:crypto'
import { nameLabel } from '#core/naming'
import { defaultScheme, type Site } from '#core/site'
import { config, notFound } from '#server/platform'
import type { Destination } from './destination-rows'
import { type DestinationForm, type DestinationOwner, saveDestination, testDestination } from './destinations'

/**
 * Adds the practice host that ships with the application, tried like any other: each account has a space of its own
 * there, each site a folder in it.
 * @returns the destination's id
 */
export async function addPracticeHost(
  site: Pick<Site, 'id' | 'name'>,
  owner: DestinationOwner,
): Promise<string> {
  const { demo } = config()
  if (!demo) throw notFound()
  // As the practice host knows its accounts (`practice-host/accounts.ts`).
  const account = `author-${createHash('sha256')
    .update(owner.hostsOf ?? owner.accountId)
    .digest('hex')
    .slice(0, 16)}`
  const password = createHmac('sha256', demo.password).update(account).digest('base64url')
  const { name } = nameLabel(site.name, defaultScheme, 'en')
  const folder = `${name || 'site'}-${site.id.slice(0, 4)}`
  const form: DestinationForm = {
    name: 'Practice host',
    protocol: 'sftp',
    host: '127.0.0.1',
    port: demo.sftpPort,
    account,
    password,
    folder: `public/${folder}`,
    publicAddress: `${demo.publicAddress}~${account}/${folder}/`,
  }
  const { hostKey } = await testDestination(form, null, owner, null)
  return saveDestination(form, null, owner, hostKey)
}

/** Whether the practice host is there to be added: it is, and none of a site's destinations is at it. */
export function offersPracticeHost(destinations: readonly Pick<Destination, 'host' | 'port'>[]): boolean {
  const { demo } = config()
  return (
    demo !== null && !destinations.some(({ host, port }) => host === '127.0.0.1' && port === demo.sftpPort)
  )
}
