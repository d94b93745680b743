import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import { edit, findRewrites, newSite, type NewSite, withRewritten } from '#core/change'
import { type Kit, plainKit } from '#core/kit'
import { applyEdits, readHtml } from '#core/markup'
import type { Scheme, Site } from '#core/site'
import { starterStyle } from '#core/style'
import { defaultTemplate } from '#core/template'
import { getTexts, putBlobs, textFrom } from '#server/contents'
import { noteRequest, transaction } from '#server/platform'
import { insertSite } from './rows/site-rows'

/** What a site is made from. */
export interface SiteStart extends Pick<NewSite, 'name' | 'language' | 'plan'> {
  /** What it begins with, its contents kept already; without one, the usual template and style sheet. */
  readonly kit?: Kit
  /** A scheme in the place of the kit's. */
  readonly scheme?: Scheme
}

/** The kit of sites for which none was chosen; its contents are kept. */
async function usualKit(client: pg.PoolClient): Promise<Kit> {
  const [template, style] = await putBlobs(client, [defaultTemplate, starterStyle()])
  return plainKit({
    template: template!,
    style: { hash: style!, sizeBytes: Buffer.byteLength(starterStyle()) },
  })
}

/** Makes a site from a plan and a kit; returns its id. Asked for again under one request id, it is made once. */
export async function createSite(
  accountId: string,
  { kit, scheme, ...options }: SiteStart,
  requestId: string = randomUUID(),
): Promise<string> {
  const id = randomUUID()
  return transaction(async (client) => {
    const made = await noteRequest(client, accountId, requestId, id)
    if (made !== 'new') return made.result!
    const [emptyContent] = await putBlobs(client, [''])
    const site = newSite({
      ...options,
      id,
      newId: randomUUID,
      emptyContent: emptyContent!,
      kit: kit ?? (await usualKit(client)),
    })
    await insertSite(client, scheme ? await withScheme(client, site, scheme) : site, accountId)
    return site.id
  })
}

/** A site that nobody has seen yet under another scheme: what its templates and style sheets refer to follows. */
async function withScheme(client: pg.PoolClient, site: Site, scheme: Scheme): Promise<Site> {
  const edited = edit(site, { kind: 'setScheme', scheme, was: site.scheme })
  if ('refusal' in edited) throw new RangeError(edited.refusal.message)
  const hashes = [
    ...site.templates.map(({ source }) => source),
    ...site.files.flatMap(({ kind, hash }) => (kind === 'style' ? [hash] : [])),
  ]
  const textOf = textFrom(await getTexts(client, hashes))
  // Its pages are empty.
  const rewrites = findRewrites(site, edited.site, { textOf, factsOf: () => readHtml('') })
  const texts = rewrites.map(({ hash, edits }) => applyEdits(textOf(hash), edits))
  const kept = await putBlobs(client, texts)
  return withRewritten(
    edited.site,
    rewrites.map(({ owner }, index) => ({
      owner,
      hash: kept[index]!,
      sizeBytes: Buffer.byteLength(texts[index]!),
    })),
  )
}
