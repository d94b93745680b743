import { randomUUID } from 'node:crypto'
import { newSite, type NewSite } from '#core/change'
import { defaultScheme, type Scheme } from '#core/site'
import { defaultTemplate, starterStyle } from '#core/template'
import { putBlobs } from './database/blobs'
import { transaction } from './database/pool'
import { insertSite } from './database/sites'

/** Makes a site from a plan, with the default template and style sheet; returns its id. */
export async function createSite(
  accountId: string,
  options: Pick<NewSite, 'name' | 'language' | 'plan'> & { readonly scheme?: Scheme },
): Promise<string> {
  return transaction(async (client) => {
    const [emptyContent, template, style] = await putBlobs(client, ['', defaultTemplate, starterStyle])
    const site = newSite({
      scheme: defaultScheme,
      ...options,
      id: randomUUID(),
      newId: randomUUID,
      emptyContent: emptyContent!,
      template: template!,
      style: { hash: style!, sizeBytes: Buffer.byteLength(starterStyle) },
    })
    await insertSite(client, site, accountId)
    return site.id
  })
}
