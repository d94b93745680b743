import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import { newSite, type NewSite, rewritesOfNewSite, withRewritten } from '#core/change'
import { type Kit, plainKit } from '#core/kit'
import { applyEdits, readHtml } from '#core/markup'
import { translationsOf } from '#core/plan'
import type { Site } from '#core/site'
import { starterStyle } from '#core/style'
import {
  compileTemplate,
  defaultTemplate,
  inLanguage,
  listLanguages,
  readSkeleton,
  sayTranslations,
} from '#core/template'
import { getTexts, loadFileFacts, putBlobs, textFrom } from '#server/contents'
import { noteRequest, transaction } from '#server/platform'
import { insertSite } from './rows/site-rows'

/** What a site is made from. */
export interface SiteStart extends Pick<NewSite, 'name' | 'language' | 'plan' | 'scheme'> {
  /** What it begins with, its contents kept already; without one, the usual template and style sheet. */
  readonly kit?: Kit
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
  options: SiteStart,
  requestId: string = randomUUID(),
): Promise<string> {
  const id = randomUUID()
  return transaction(async (client) => {
    const made = await noteRequest(client, accountId, requestId, id)
    if (made !== 'new') return made.result!
    const kit = options.kit ?? (await usualKit(client))
    const [emptyContent] = await putBlobs(client, [''])
    const site = newSite({ ...options, kit, id, newId: randomUUID, emptyContent: emptyContent! })
    await insertSite(client, await mended(client, await inItsLanguage(client, site), kit), accountId)
    return site.id
  })
}

/** A template that lists the languages of a page, and tells them to search engines. */
const inLanguages = (source: string): string => {
  if (!readSkeleton(source).isDocument || compileTemplate(source).listsLanguages) return source
  const listed = applyEdits(source, listLanguages(source, 'en'))
  return applyEdits(listed, sayTranslations(listed))
}

/**
 * A site whose templates say in its language what they say in English as they ship, and lead from one language to the other
 * where it begins with several.
 */
async function inItsLanguage(client: pg.PoolClient, site: Site): Promise<Site> {
  const textOf = textFrom(
    await getTexts(
      client,
      site.templates.map(({ source }) => source),
    ),
  )
  const listing = translationsOf(site).languages.length > 0 ? inLanguages : (source: string) => source
  const sources = await putBlobs(
    client,
    site.templates.map(({ source }) => inLanguage(listing(textOf(source)), site.language)),
  )
  return {
    ...site,
    templates: site.templates.map((template, index) => ({ ...template, source: sources[index]! })),
  }
}

/** A site whose templates and files lead to where the files of its kit stand in it. */
async function mended(client: pg.PoolClient, site: Site, kit: Kit): Promise<Site> {
  const sources = await getTexts(client, site.templates.map(({ source }) => source)) // prettier-ignore
  const fileFactsOf = await loadFileFacts(client, site.files)
  const rewrites = rewritesOfNewSite(site, kit, {
    textOf: textFrom(sources),
    // Its pages are empty.
    factsOf: () => readHtml(''),
    referencesOf: (file) => fileFactsOf(file).references,
  })
  if (rewrites.length === 0) return site
  const textOf = textFrom(await getTexts(client, rewrites.map(({ hash }) => hash))) // prettier-ignore
  const texts = rewrites.map(({ hash, edits }) => applyEdits(textOf(hash), edits))
  const kept = await putBlobs(client, texts)
  return withRewritten(
    site,
    rewrites.map(({ owner }, index) => ({
      owner,
      hash: kept[index]!,
      sizeBytes: Buffer.byteLength(texts[index]!),
    })),
  )
}
