import { filesToSend } from '#core/delivery'
import { isGrave, withoutAside } from '#core/findings'
import { Problem } from '#core/problems'
import { deadline, type Job, log, many, pool } from '#server/platform'
import { findingsOf, loadSite, type StoredSite } from '#server/sites'
import { compareKnown } from '../looking/compare'
import { askDelivery } from './ask'
import { callForDelivery } from './worker'

/** How long thinking of one site may take. */
const deadlineMs = 60_000

interface Candidate {
  readonly destinationId: string
  readonly siteId: string
  readonly ownerId: string
  readonly askedBy: string
  readonly revision: number
}

/** Has a site go to a destination by itself when nothing has changed for so many minutes; null for not. */
export async function setByItself(
  destinationId: string,
  accountId: string,
  minutes: number | null,
): Promise<void> {
  await pool().query(
    'UPDATE destinations SET by_itself_minutes = $2, by_itself_by = $3, by_itself_revision = 0 WHERE id = $1',
    [destinationId, minutes, accountId],
  )
}

/** Destinations whose site has changed since it was last thought of, and not within the minutes that were agreed. */
const findCandidates = (): Promise<Candidate[]> =>
  many<Candidate>(
    pool(),
    `SELECT d.id AS "destinationId", s.id AS "siteId", s.account_id AS "ownerId",
       coalesce(d.by_itself_by, s.account_id) AS "askedBy", s.revision
     FROM destinations d JOIN sites s ON s.id = d.site_id
     WHERE d.by_itself_minutes IS NOT NULL AND s.revision > d.by_itself_revision
       AND s.changed_at < now() - make_interval(mins => d.by_itself_minutes)
       AND NOT EXISTS (SELECT 1 FROM deliveries e WHERE e.destination_id = d.id AND e.state IN ('waiting', 'running'))
     ORDER BY s.changed_at LIMIT 50`,
  )

/** Whether a site is to go out: it differs from what is there, and nothing visitors would stumble over is found. */
async function isReady(stored: StoredSite, destinationId: string, signal: AbortSignal): Promise<boolean> {
  if (filesToSend(await compareKnown(stored, destinationId, signal)).length === 0) return false
  const { findings } = await findingsOf(stored.site, signal)
  return !withoutAside(findings, stored.site.checking).open.some(isGrave)
}

/** Asks for the deliveries that authors have agreed to. May run in several processes, and be cut anywhere. */
export async function thinkOfDeliveries(): Promise<void> {
  for (const { destinationId, siteId, ownerId, askedBy, revision } of await findCandidates()) {
    try {
      const signal = deadline(deadlineMs)
      const stored = await loadSite(pool(), siteId, ownerId)
      // One that was changed just now is left in peace for as long again.
      if (!stored || stored.revision !== revision) continue
      if (await isReady(stored, destinationId, signal)) {
        const asked = await askDelivery(
          stored,
          { destinationId, accountId: askedBy },
          { goesOn: true },
          signal,
        )
        if (!asked) continue
        await callForDelivery()
      }
    } catch (error) {
      // What cannot be delivered for now is thought of again once it has changed.
      const level = error instanceof Problem ? 'info' : 'error'
      log[level]({ err: error, destinationId }, 'a delivery by itself')
    }
    await pool().query('UPDATE destinations SET by_itself_revision = $2 WHERE id = $1', [
      destinationId,
      revision,
    ])
  }
}

export const byItselfJob: Job = {
  name: 'by-itself',
  pollSeconds: 20,
  schedule: '* * * * *',
  work: thinkOfDeliveries,
}
