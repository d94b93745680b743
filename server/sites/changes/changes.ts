import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import {
  type Change,
  edit,
  isTyped,
  placesOf,
  type Refusal,
  rightFor,
  rippleOf,
  titleOf,
  toldOfTexts,
} from '#core/change'
import { diffSites, isEmptyDiff, type SiteDiff } from '#core/site'
import { getTexts, textFrom } from '#server/contents'
import { Problem } from '#core/problems'
import { announceSoon, noteRequest, notFound, transaction } from '#server/platform'
import { diffsSince, saveRevision, undoTitles } from '../rows/history-rows'
import { requireRight } from '../people/access'
import { loadSite, remember, type SiteOfSomebody, type StoredSite } from '../rows/site-rows'
import { mend } from './mend'
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

/** A site that an account may write in, kept from others until the transaction ends. */
export async function lockedSite(
  client: pg.PoolClient,
  siteId: string,
  accountId: string,
): Promise<SiteOfSomebody> {
  const stored = await loadSite(client, siteId, accountId, { right: 'write', lock: true })
  if (!stored) throw notFound()
  return stored
}

export async function savedSince(
  client: pg.PoolClient,
  siteId: string,
  accountId: string,
  seen: number,
  revision: number,
): Promise<Saved> {
  const diffs = await diffsSince(client, siteId, seen, revision)
  return {
    revision,
    diffs,
    ...(await undoTitles(client, siteId, accountId)),
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
 * @param actId what it is a part of: changes of one act that follow one another are taken back as one step
 */
export async function changeSite(
  siteId: string,
  accountId: string,
  seen: number,
  prepare: (client: pg.PoolClient) => Promise<Change> | Change,
  shown = true,
  requestId: string = randomUUID(),
  actId: string | null = null,
): Promise<Saved> {
  let made: StoredSite | null = null
  const saved = await transaction(async (client) => {
    const { site, revision, role } = await lockedSite(client, siteId, accountId)
    if ((await noteRequest(client, accountId, requestId)) !== 'new')
      return savedSince(client, siteId, accountId, seen, revision)
    const change = await prepare(client)
    requireRight(role, rightFor(change, site))
    const edited = edit(site, change)
    if ('refusal' in edited) throw refusalProblem(edited.refusal)
    const {
      site: after,
      rewrites,
      sources,
    } = await mend(client, site, edited.site, toldOfTexts(change, site), true)
    const diff = diffSites(site, after)
    if (isEmptyDiff(diff)) return savedSince(client, siteId, accountId, seen, revision)
    const ripple = rippleOf(site, edited.site, rewrites, sources, placesOf(change))
    const texts = await getTexts(client, textsToShow(ripple.rewrites))
    const view = viewRipple(site, ripple, textFrom(texts))
    if (ripple.reachesFurther && !shown && !isTyped(change))
      throw new Problem('ask-first', null, { detail: { ripple: view } })
    const title = titleOf(change, site)
    const next = await saveRevision(client, after, { kind: 'change', title, diff, by: accountId, actId })
    made = { site: after, revision: next }
    const told = ripple.moved.length > 0 || ripple.hidden.length > 0 ? view : null
    // A window that has seen all before it misses this alone, and that is at hand, however large.
    if (seen === revision)
      return {
        revision: next,
        diffs: [diff],
        undo: title,
        redo: null,
        savedAt: new Date().toISOString(),
        ripple: told,
      }
    return { ...(await savedSince(client, siteId, accountId, seen, next)), ripple: told }
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
    const { rewrites, sources } = await mend(client, site, edited.site, toldOfTexts(change, site), false)
    const ripple = rippleOf(site, edited.site, rewrites, sources, placesOf(change))
    const texts = await getTexts(client, textsToShow(ripple.rewrites))
    return viewRipple(site, ripple, textFrom(texts))
  })
}

/** Everything a window that saw `seen` has missed. */
export async function catchUp(siteId: string, accountId: string, seen: number): Promise<Saved> {
  return transaction(async (client) => {
    const stored = await loadSite(client, siteId, accountId)
    if (!stored) throw notFound()
    return savedSince(client, siteId, accountId, seen, stored.revision)
  })
}
