import type pg from 'pg'
import { findRewrites, movesAnything, type ToldOfTexts, withRewritten } from '#core/change'
import { applyEdits } from '#core/markup'
import { contentsOfPages, type Site, type SiteFile } from '#core/site'
import {
  getTexts,
  getTextsOften,
  hashOf,
  loadFacts,
  loadFileFacts,
  putBlobs,
  textFrom,
} from '#server/contents'

/** The changed site with every reference mended that the change made wrong; new texts are stored. */
export async function mend(
  client: pg.PoolClient,
  before: Site,
  after: Site,
  told: ToldOfTexts,
  store: boolean,
) {
  const factsOf = await loadFacts(client, new Set(contentsOfPages(after.pages)))
  const fileFactsOf = await loadFileFacts(client, movesAnything(before, after, told) ? after.files : [])
  const referencesOf = (file: SiteFile) => fileFactsOf(file).references
  const texts = await getTextsOften(
    client,
    [...before.templates, ...after.templates].map((one) => one.source),
  )
  const textOf = textFrom(texts)
  const rewrites = findRewrites(before, after, { factsOf, textOf, referencesOf }, told)
  if (rewrites.length === 0) return { site: after, rewrites, sources: { factsOf, textOf } }
  for (const [hash, text] of await getTexts(
    client,
    rewrites.map((one) => one.hash),
  ))
    texts.set(hash, text)
  const mended = rewrites.map((one) => applyEdits(textOf(one.hash), one.edits))
  const stored = store ? await putBlobs(client, mended) : mended.map(hashOf)
  for (const [index, hash] of stored.entries()) texts.set(hash, mended[index]!)
  const site = withRewritten(
    after,
    rewrites.map(({ owner }, index) => {
      return { owner, hash: stored[index]!, sizeBytes: Buffer.byteLength(mended[index]!) }
    }),
  )
  return { site, rewrites, sources: { factsOf, textOf } }
}
