import { deleteOldSessions } from './database/accounts'
import { collectBlobs } from './database/blobs'
import { deleteOldFacts } from './database/facts'
import { pool, transaction } from './database/pool'
import { deleteOldLimits, deleteOldRequests } from './database/requests'
import { daysToThin, thinDay } from './database/sites'
import { log } from './log'

/** What is removed in one statement: short ones, so that nobody waits for housekeeping. */
const batch = 500

/**
 * Removes what nobody needs any more: ended sessions, answers kept for a request that may come again,
 * counters that ran out, contents that nothing names, and steps of history by the rule in `daysToThin`.
 * May run in several processes at once, and be cut anywhere.
 */
export async function housekeeping(): Promise<void> {
  await deleteOldSessions(pool())
  await deleteOldRequests(pool())
  await deleteOldLimits(pool())
  let thinned = 0
  for (;;) {
    const days = await daysToThin(pool(), batch)
    for (const { siteId, day } of days) await transaction((client) => thinDay(client, siteId, day))
    thinned += days.length
    if (days.length < batch) break
  }
  let collected = 0
  for (;;) {
    const count = await collectBlobs(pool(), batch)
    collected += count
    if (count < batch) break
  }
  await deleteOldFacts(pool())
  log.info({ collected, thinned }, 'housekeeping')
}
