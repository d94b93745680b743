import { randomBytes, randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import pg from 'pg'
import { planSite, readOutline } from '#core/plan'
import type { Site } from '#core/site'
import { signUp } from '../accounts/accounts'
import { putBlob } from '../contents/blobs'
import { recordThere } from '../deliveries/places/known-rows'
import { compareKnown, lookThere, type OnReadBack } from '../deliveries/looking/compare'
import { findDestination, insertDestination } from '../deliveries/places/destination-rows'
import { askDelivery, type Wishes } from '../deliveries/sending/ask'
import { putWebHost } from '../deliveries/places/web-host-rows'
import { migrate } from '../platform/migrate'
import { forgetConfig } from '../platform/config'
import { endPool, pool } from '../platform/pool'
import { loadSite } from '../sites/rows/site-rows'
import { noteDelivered } from '../sites/changes/delivered-addresses'
import { stopListening } from '../platform/events'
import { changeSite } from '../sites/changes/changes'
import { createSite } from '../sites/create'
import { type PracticeHost, startPracticeHost } from '../../practice-host/host'

/** What was set before any suite set something for itself: the suites of one worker share it. */
const outer = { ...process.env }

/** A fresh database for a suite; every module of the server uses it until `close`. */
export async function freshDatabase(): Promise<{ close: () => Promise<void> }> {
  const base = outer.DATABASE_URL
  if (!base) throw new Error('These tests need DATABASE_URL; npm test sets it.')
  const name = `suite_${randomBytes(6).toString('hex')}`
  const admin = new pg.Client({ connectionString: base })
  await admin.connect()
  await admin.query(`CREATE DATABASE ${name}`)
  const url = new URL(base)
  url.pathname = `/${name}`
  process.env.DATABASE_URL = url.href
  // The practice hosts of tests are on loopback, at ports of their own.
  process.env.RUBRICANT_PRIVATE_HOSTS = 'true'
  // What the suite before it left may have asked for either since.
  forgetConfig()
  await endPool()
  await migrate()
  return {
    async close() {
      await stopListening()
      for (const name of Object.keys(process.env)) if (!(name in outer)) delete process.env[name]
      Object.assign(process.env, outer)
      await endPool()
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`)
      await admin.end()
    },
  }
}

/** A practice host on free ports over a folder of its own. */
export async function practiceHost(): Promise<PracticeHost & { end: () => Promise<void> }> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-host-'))
  const host = await startPracticeHost({ folder, sftpPort: 0, webPort: 0 })
  return {
    ...host,
    async end() {
      await host.close()
      await rm(folder, { recursive: true, force: true })
    },
  }
}

/** An account with a site from a typed plan. */
export async function accountWithSite(plan: string): Promise<{ accountId: string; siteId: string }> {
  const { id: accountId } = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!
  const siteId = await createSite(accountId, {
    name: 'Saltpan Chapel',
    language: 'en',
    plan: planSite(readOutline(plan), 'Saltpan Chapel'),
  })
  return { accountId, siteId }
}

export const siteOf = async (siteId: string, accountId: string): Promise<Site> =>
  (await loadSite(pool(), siteId, accountId))!.site

/** Writes a page's text as its author would. */
export async function writePage(
  siteId: string,
  accountId: string,
  label: string,
  html: string,
): Promise<void> {
  const page = (await siteOf(siteId, accountId)).pages.find((one) => one.label === label)!
  await changeSite(siteId, accountId, 0, async (client) => ({
    kind: 'setContent',
    pageId: page.id,
    content: await putBlob(client, html),
    was: page.content,
  }))
}

/** Puts addresses of pages into the world, as a delivery to a destination of the site does. */
export async function delivered(
  { siteId, accountId }: { siteId: string; accountId: string },
  paths: Readonly<Record<string, string>>,
): Promise<void> {
  const id = randomUUID()
  const place = { id, protocol: 'sftp', host: 'host.example', port: 22, account: id }
  const secretSealed = Buffer.from('')
  await putWebHost(pool(), accountId, { ...place, signIn: 'password', hostKey: 'SHA256:x', secretSealed })
  await insertDestination(pool(), siteId, {
    ...{ id, webHostId: id, name: 'Practice', folder: '' },
    publicAddress: 'http://host.example/',
  })
  const files = Object.entries(paths).map(([pageId, at]) => {
    return { path: at, hash: '0'.repeat(64), sizeBytes: 1, modifiedSeconds: null, pageId }
  })
  await recordThere(pool(), id, files)
  await noteDelivered(siteId, accountId)
}

/** Waits for something to become true; never for a time of its own. */
export async function until(isTrue: () => Promise<boolean> | boolean): Promise<void> {
  const end = Date.now() + 30_000
  while (!(await isTrue())) {
    if (Date.now() > end) throw new Error('It did not come true')
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
}

/** What an author fills in for a folder of a practice host. */
export const practiceForm = (host: PracticeHost, name: string, more: object = {}) => ({
  name: 'Practice',
  protocol: 'sftp',
  host: '127.0.0.1',
  port: host.sftpPort,
  account: host.account,
  password: host.password,
  folder: `public/${name}`,
  publicAddress: `http://127.0.0.1:${host.webPort}/${name}/`,
  ...more,
})

interface DeliveredSite {
  readonly siteId: string
  readonly accountId: string
  readonly destinationId: string
}

/** How many files of a site are in which state at its destination, as far as is known. */
export async function statesOf({
  siteId,
  accountId,
  destinationId,
}: DeliveredSite): Promise<Record<string, number>> {
  const { files } = await compareKnown((await loadSite(pool(), siteId, accountId))!, destinationId)
  const counts: Record<string, number> = {}
  for (const file of files) counts[file.state] = (counts[file.state] ?? 0) + 1
  return counts
}

/** Looks at what is really there. */
export async function lookAt(
  { siteId, accountId, destinationId }: DeliveredSite,
  signal?: AbortSignal,
  tell?: OnReadBack,
): Promise<void> {
  const destination = (await findDestination(pool(), destinationId, siteId, accountId))!
  await lookThere(destination, (await loadSite(pool(), siteId, accountId))!, signal, tell)
}

/** Asks for a delivery of a site as it is now, as its author does; null when one is under way there. */
export async function askFor(
  { siteId, accountId, destinationId }: DeliveredSite,
  wishes: Wishes = {},
): Promise<{ id: string } | null> {
  return askDelivery((await loadSite(pool(), siteId, accountId))!, { destinationId, accountId }, wishes)
}
