import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import {
  type Change,
  edit,
  findRewrites,
  isTyped,
  placesOf,
  type Refusal,
  rippleOf,
  titleOf,
  toldOfTexts,
  withRewritten,
} from '#core/change'
import { applyEdits } from '#core/markup'
import {
  applyDiff,
  contentsOfPages,
  diffSites,
  type Hash,
  isEmptyDiff,
  reverseDiff,
  type Site,
  type SiteDiff,
} from '#core/site'
import { listAddresses } from '../rows/address-rows'
import { getTexts, hashOf, loadFacts, loadStyles, putBlobs, textFrom } from '#server/contents'
import { Problem } from '#core/problems'
import { announceSoon, noteRequest, notFound, transaction } from '#server/platform'
import {
  diffsSince,
  markStep,
  passUndone,
  saveRevision,
  stepToRedo,
  stepToUndo,
  undoTitles,
} from '../rows/history-rows'
import { loadSite, remember, type StoredSite } from '../rows/site-rows'
import { type RippleView, textsToShow, viewRipple } from './ripple-view'

/** What a window gets back: everything it has not seen yet, its own change among it. */
export interface Saved {
  readonly revision: number
  readonly diffs: readonly SiteDiff[]
  readonly undo: string | null
  readonly redo: string | null
  readonly savedAt: string
  /** What the window's own change touched beside itself; null when no file changed its name. */
  readonly ripple: RippleView | null
}

/** The refusal as an error with all the author needs to go on. */
function refusalProblem(refusal: Refusal): Problem {
  const detail = 'now' in refusal ? { now: refusal.now } : null
  const code = refusal.reason === 'invalid' ? 'invalid' : 'changed-elsewhere'
  return new Problem(code, { why: refusal.message }, { detail })
}

/** The changed site with every reference mended that the change made wrong; new texts are stored. */
async function mend(client: pg.PoolClient, before: Site, after: Site, change: Change, store: boolean) {
  const factsOf = await loadFacts(client, new Set(contentsOfPages(after.pages)))
  const styles = after.files.filter((one) => one.kind === 'style').map((one) => one.hash)
  const styleOf = await loadStyles(client, styles)
  const cssOf = (hash: Hash) => styleOf(hash).references
  const texts = await getTexts(
    client,
    [...before.templates, ...after.templates].map((one) => one.source),
  )
  const textOf = textFrom(texts)
  const rewrites = findRewrites(before, after, { factsOf, textOf, cssOf }, toldOfTexts(change))
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

async function lockedSite(client: pg.PoolClient, siteId: string, accountId: string): Promise<StoredSite> {
  const stored = await loadSite(client, siteId, accountId, true)
  if (!stored) throw notFound()
  return stored
}

async function savedSince(
  client: pg.PoolClient,
  siteId: string,
  seen: number,
  revision: number,
): Promise<Saved> {
  const diffs = await diffsSince(client, siteId, seen, revision)
  return {
    revision,
    diffs,
    ...(await undoTitles(client, siteId)),
    savedAt: new Date().toISOString(),
    ripple: null,
  }
}

/**
 * Makes one change to an account's site: the rows it alters, the references it makes wrong, the
 * next revision and its history row, all in one transaction.
 * @param prepare turns the request into a change, storing new contents first
 * @param seen the revision the window knows
 * @param shown whether the change's ripple has been shown; one that reaches further (see
 *   `Ripple`) is made only then. Otherwise throws the problem `ask-first`, with the ripple as its detail.
 * @param requestId names this request: asked for again because its answer was lost, it is answered again
 *   and made once
 */
export async function changeSite(
  siteId: string,
  accountId: string,
  seen: number,
  prepare: (client: pg.PoolClient) => Promise<Change> | Change,
  shown = true,
  requestId: string = randomUUID(),
): Promise<Saved> {
  let made: StoredSite | null = null
  const saved = await transaction(async (client) => {
    const { site, revision } = await lockedSite(client, siteId, accountId)
    if ((await noteRequest(client, accountId, requestId)) !== 'new')
      return savedSince(client, siteId, seen, revision)
    const change = await prepare(client)
    const edited = edit(site, change)
    if ('refusal' in edited) throw refusalProblem(edited.refusal)
    const { site: after, rewrites, sources } = await mend(client, site, edited.site, change, true)
    const diff = diffSites(site, after)
    if (isEmptyDiff(diff)) return savedSince(client, siteId, seen, revision)
    const ripple = rippleOf(site, edited.site, rewrites, sources, placesOf(change))
    const texts = await getTexts(client, textsToShow(ripple.rewrites))
    const view = viewRipple(site, ripple, textFrom(texts))
    if (ripple.reachesFurther && !shown && !isTyped(change))
      throw new Problem('ask-first', null, { detail: { ripple: view } })
    await passUndone(client, siteId)
    const next = await saveRevision(client, after, { kind: 'change', title: titleOf(change, site), diff })
    made = { site: after, revision: next }
    return {
      ...(await savedSince(client, siteId, seen, next)),
      ripple: ripple.moved.length > 0 || ripple.hidden.length > 0 ? view : null,
    }
  })
  if (made) remember(made)
  announceSoon({ siteId, kind: 'revision', revision: saved.revision })
  return saved
}

/** What a change would touch, without making it. */
export async function previewChange(
  siteId: string,
  accountId: string,
  prepare: (client: pg.PoolClient) => Promise<Change> | Change,
): Promise<RippleView> {
  return transaction(async (client) => {
    const stored = await loadSite(client, siteId, accountId)
    if (!stored) throw notFound()
    const { site } = stored
    const change = await prepare(client)
    const edited = edit(site, change)
    if ('refusal' in edited) throw refusalProblem(edited.refusal)
    const { rewrites, sources } = await mend(client, site, edited.site, change, false)
    const ripple = rippleOf(site, edited.site, rewrites, sources, placesOf(change))
    const texts = await getTexts(client, textsToShow(ripple.rewrites))
    return viewRipple(site, ripple, textFrom(texts))
  })
}

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

/** Takes back the latest change, or makes the one taken back last again. */
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
      return savedSince(client, siteId, seen, revision)
    const step = await (direction === 'undo' ? stepToUndo : stepToRedo)(client, siteId)
    if (!step) return savedSince(client, siteId, seen, revision)
    const diff = direction === 'undo' ? reverseDiff(step.diff) : step.diff
    const applied = applyDiff(site, diff)
    if ('conflict' in applied) throw new Problem('cannot-step', { step: step.title, direction })
    const after = await withAddresses(client, applied.site, new Set(site.pages.map((page) => page.id)))
    await markStep(client, siteId, step.revision, direction === 'undo' ? 'undone' : 'done')
    const made = diffSites(site, after)
    const next = await saveRevision(client, after, { kind: direction, title: step.title, diff: made })
    return savedSince(client, siteId, seen, next)
  })
  announceSoon({ siteId, kind: 'revision', revision: saved.revision })
  return saved
}

/** Everything a window that saw `seen` has missed. */
export async function catchUp(siteId: string, accountId: string, seen: number): Promise<Saved> {
  return transaction(async (client) => {
    const stored = await loadSite(client, siteId, accountId)
    if (!stored) throw notFound()
    return savedSince(client, siteId, seen, stored.revision)
  })
}
