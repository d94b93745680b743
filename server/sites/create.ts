import { randomUUID } from 'node:crypto'
import { newSite, type NewSite } from '#core/change'
import { defaultScheme, type Scheme } from '#core/site'
import { starterStyle } from '#core/style'
import { defaultTemplate } from '#core/template'
import { putBlobs } from '#server/contents'
import { noteRequest, transaction } from '#server/platform'
import { insertSite } from './rows/site-rows'

/** Makes a site from a plan, with the default template and style sheet; returns its id. Asked for again under one request id, it is made once. */
export async function createSite(
  accountId: string,
  options: Pick<NewSite, 'name' | 'language' | 'plan'> & { readonly scheme?: Scheme },
  requestId: string = randomUUID(),
): Promise<string> {
  const id = randomUUID()
  return transaction(async (client) => {
    const made = await noteRequest(client, accountId, requestId, id)
    if (made !== 'new') return made.result!
    const [emptyContent, template, style] = await putBlobs(client, ['', defaultTemplate, starterStyle()])
    const site = newSite({
      scheme: defaultScheme,
      ...options,
      id,
      newId: randomUUID,
      emptyContent: emptyContent!,
      template: template!,
      style: { hash: style!, sizeBytes: Buffer.byteLength(starterStyle()) },
    })
    await insertSite(client, site, accountId)
    return site.id
  })
}
