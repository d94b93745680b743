import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import { type SteppedSite, takeStep, textNow, withRewritten } from '#core/change'
import { mergeTexts } from '#core/texts'
import { checkSite, diffSites, reverseDiff, type Site } from '#core/site'
import { listAddresses } from '../rows/address-rows'
import { getTexts, putBlobs, textFrom } from '#server/contents'
import { Problem } from '#core/problems'
import { announceSoon, noteRequest, transaction } from '#server/platform'
import { haveOthersChanged, markStep, saveRevision, stepToRedo, stepToUndo } from '../rows/history-rows'
import { lockedSite, type Saved, savedSince } from './changes'
import { mend } from './mend'

/** Pages that come back have the addresses that are out in the world now, not those of when they went. */
async function withAddresses(client: pg.PoolClient, site: Site, known: ReadonlySet<string>): Promise<Site> {
  if (site.pages.every((page) => known.has(page.id))) return site
  const addresses = await listAddresses(client, site.id)
  return {
    ...site,
    pages: site.pages.map((page) =>
      known.has(page.id) ? page : { ...page, addresses: addresses[page.id] ?? [] },
    ),
  }
}

/**
 * A step put together with what others did since: their references follow what it moves, and texts that both changed are
 * merged; null where that cannot be done without losing something of one of them.
 */
async function mergeWithOthers(
  client: pg.PoolClient,
  before: Site,
  { site, toMerge, written }: SteppedSite,
): Promise<Site | null> {
  const mended = (await mend(client, before, site, { written }, true)).site
  const here = toMerge.map(({ owner }) => textNow(mended, owner))
  if (here.some((hash) => hash === null)) return null
  const hashes = [...toMerge.flatMap(({ base, wanted }) => [base, wanted]), ...(here as string[])]
  const textOf = textFrom(await getTexts(client, hashes))
  const texts: string[] = []
  for (const [index, { base, wanted }] of toMerge.entries()) {
    const text = mergeTexts(textOf(base), textOf(wanted), textOf(here[index]!))
    if (text === null) return null
    texts.push(text)
  }
  const stored = await putBlobs(client, texts)
  return withRewritten(
    mended,
    toMerge.map(({ owner }, index) => ({
      owner,
      hash: stored[index]!,
      sizeBytes: Buffer.byteLength(texts[index]!),
    })),
  )
}

/**
 * Takes back the latest change that an account made, or makes the one that it took back last again; what others did since
 * stays.
 * @throws Problem `cannot-step` where what it touched has been changed by others so that one of the two would be lost
 */
export async function stepHistory(
  siteId: string,
  accountId: string,
  seen: number,
  direction: 'undo' | 'redo',
  requestId: string = randomUUID(),
): Promise<Saved> {
  const saved = await transaction(async (client) => {
    const { site, revision } = await lockedSite(client, siteId, accountId)
    if ((await noteRequest(client, accountId, requestId)) !== 'new')
      return savedSince(client, siteId, accountId, seen, revision)
    const step = await (direction === 'undo' ? stepToUndo : stepToRedo)(client, siteId, accountId)
    if (!step) return savedSince(client, siteId, accountId, seen, revision)
    const diff = direction === 'undo' ? reverseDiff(step.diff) : step.diff
    const stepped = takeStep(site, diff)
    if ('conflict' in stepped) throw new Problem('cannot-step', { step: step.title, direction })
    const merged =
      stepped.toMerge.length > 0 || (await haveOthersChanged(client, siteId, accountId, step.revisions[0]!))
        ? await mergeWithOthers(client, site, stepped)
        : stepped.site
    // A page that somebody else put something under since, say: it cannot go.
    if (merged === null || checkSite(merged).length > 0)
      throw new Problem('cannot-step', { step: step.title, direction })
    const after = await withAddresses(client, merged, new Set(site.pages.map((page) => page.id)))
    await markStep(client, siteId, step, direction === 'undo' ? 'undone' : 'done')
    const made = diffSites(site, after)
    const next = await saveRevision(client, after, {
      kind: direction,
      title: step.title,
      diff: made,
      by: accountId,
    })
    return savedSince(client, siteId, accountId, seen, next)
  })
  announceSoon({ siteId, kind: 'revision', revision: saved.revision })
  return saved
}
