import { deleteOldSessions } from './database/accounts'
import { collectBlobs } from './database/blobs'
import { pool, transaction } from './database/pool'
import { deleteOldRequests } from './database/requests'
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
  await pool().query('DELETE FROM rate_limits WHERE expire < $1', [Date.now()])
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
  await pool().query(
    `DELETE FROM content_facts f WHERE NOT EXISTS (SELECT 1 FROM blobs WHERE hash = right(f.hash, 64))`,
  )
  log.info({ collected, thinned }, 'housekeeping')
}
