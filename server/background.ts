import { byItselfJob, deliveryJob, deliveryWorker, stopDelivering } from '#server/deliveries'
import { startJobs, stopJobs } from '#server/platform'
import { housekeeping } from './housekeeping'

/** Begins all that is done without being asked for: deliveries that wait, and housekeeping every hour. */
export async function startBackground(): Promise<void> {
  await startJobs([
    deliveryJob,
    byItselfJob,
    { name: 'housekeeping', pollSeconds: 30, schedule: '17 * * * *', work: housekeeping },
  ])
  deliveryWorker()
}

/** Takes nothing up any more. A delivery under way is left to another process, when its lease runs out. */
export async function stopBackground(): Promise<void> {
  stopDelivering()
  await stopJobs()
}
