import { deleteOldLinks, deleteOldSessions } from '#server/accounts'
import { deleteOldBringings } from '#server/bringing'
import { deleteOldFacts, deleteOldPartials, PostgresContents } from '#server/contents'
import { deleteUnusedWebHosts, forgetOldRecords } from '#server/deliveries'
import { deleteOldLimits, deleteOldRequests, log, pool, transaction } from '#server/platform'
import { daysToThin, thinDay, deleteOldLooks } from '#server/sites'

/** What is removed in one statement: short ones, so that nobody waits for housekeeping. */
const batch = 500
/** Contents that nothing has named for this long are collected; younger ones may be on their way. */
const collectAfterHours = 24

/**
 * Removes what nobody needs any more: ended sessions, answers kept for a request that may come again,
 * counters that ran out, contents that nothing names, and steps of history by the rule in `daysToThin`.
 * May run in several processes at once, and be cut anywhere.
 */
export async function housekeeping(): Promise<void> {
  await deleteOldSessions(pool())
  await deleteOldLinks(pool())
  await deleteOldRequests(pool())
  await deleteOldLimits(pool())
  let thinned = 0
  for (;;) {
    const days = await daysToThin(pool(), batch)
    for (const { siteId, day } of days) await transaction((client) => thinDay(client, siteId, day))
    thinned += days.length
    if (days.length < batch) break
  }
  await deleteOldPartials(pool(), collectAfterHours)
  await deleteOldBringings(pool(), collectAfterHours)
  await deleteOldLooks(pool(), 60)
  await deleteUnusedWebHosts(pool(), null)
  while ((await forgetOldRecords(pool(), 10 * batch)) === 10 * batch);
  const contents = new PostgresContents(pool())
  let collected = 0
  for (;;) {
    const count = await contents.collect(batch, collectAfterHours)
    collected += count
    if (count < batch) break
  }
  await deleteOldFacts(pool())
  log.info({ collected, thinned }, 'housekeeping')
}
