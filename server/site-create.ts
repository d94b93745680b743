import { randomUUID } from 'node:crypto'
import { newSite } from '#core/change'
import type { SitePlan } from '#core/plan'
import { defaultScheme, type Scheme } from '#core/site'
import { defaultTemplate, starterStyle } from '#core/template'
import { putBlobs } from './database/blobs'
import { transaction } from './database/pool'
import { insertSite } from './database/sites'

/** Makes a site from a plan, with the default template and style sheet; returns its id. */
export async function createSite(
  accountId: string,
  options: { name: string; language: string; plan: SitePlan; scheme?: Scheme },
): Promise<string> {
  return transaction(async (client) => {
    const [emptyContent, template, style] = await putBlobs(client, ['', defaultTemplate, starterStyle])
    const site = newSite({
      id: randomUUID(),
      ...options,
      newId: randomUUID,
      emptyContent: emptyContent!,
      template: template!,
      style: { hash: style!, sizeBytes: Buffer.byteLength(starterStyle) },
    })
    const { scheme = defaultScheme } = options
    await insertSite(client, { ...site, scheme: { ...defaultScheme, ...scheme } }, accountId)
    return site.id
  })
}
