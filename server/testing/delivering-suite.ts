import path from 'node:path'
import { afterAll, afterEach, beforeAll, beforeEach } from '@jest/globals'
import { saveDestination, testDestination } from '../deliveries/places/destinations'
import { type Delivery, findDelivery } from '../deliveries/sending/delivery-rows'
import { pool } from '../platform/pool'
import { accountWithSite, freshDatabase, practiceForm, practiceHost } from './support'

/** What the tests of a suite deliver: a site of its own for each, to a folder of one practice host. */
export interface DeliveringSuite {
  readonly host: Awaited<ReturnType<typeof practiceHost>>
  readonly site: { readonly accountId: string; readonly siteId: string; readonly destinationId: string }
  /** Where a file of the site stands on the host's disk. */
  readonly onDisk: (name: string) => string
  readonly stateOf: (deliveryId: string) => Promise<Delivery>
}

/** A database and a practice host for a suite; what a test sets wrong at the host is right again for the next. */
export function hostSuite(): Pick<DeliveringSuite, 'host'> {
  let database: Awaited<ReturnType<typeof freshDatabase>>
  let host: Awaited<ReturnType<typeof practiceHost>>
  beforeAll(async () => {
    database = await freshDatabase()
    host = await practiceHost()
  })
  afterEach(() => host.faults.reset())
  afterAll(async () => {
    await host.end()
    await database.close()
  })
  return {
    get host() {
      return host
    },
  }
}

/** The same, and a new site with a destination for each of the suite's tests. */
export function deliveringSuite(plan: string): DeliveringSuite {
  const suite = hostSuite()
  let site: DeliveringSuite['site']
  beforeEach(async () => {
    const made = await accountWithSite(plan)
    const form = practiceForm(suite.host, made.siteId)
    const { hostKey } = await testDestination(form, null, made, null)
    site = { ...made, destinationId: await saveDestination(form, null, made, hostKey) }
  })
  return {
    get host() {
      return suite.host
    },
    get site() {
      return site
    },
    onDisk: (name) => path.join(suite.host.publicPath, site.siteId, name),
    stateOf: async (id) => (await findDelivery(pool(), id, site.siteId))!,
  }
}

/** A plan of a home page and so many pages. */
export const planOf = (pageCount: number): string =>
  `Home\n${Array.from({ length: pageCount }, (_, index) => `  Page ${index + 1}`).join('\n')}`
