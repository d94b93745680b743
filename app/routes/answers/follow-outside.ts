import { log } from '#server/platform'
import { followOutside } from '#server/sites'
import { requireSite } from '../../owner.server'
import { progressStream } from '../../progress.server'
import type { Route } from './+types/follow-outside'

/** Follows the addresses outside, and tells how far it is; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site, account } = await requireSite(request, params.siteId, 'write')
  return progressStream(
    request.signal,
    (signal, tell) => followOutside(site, account.id, signal, tell),
    (error) => log.error({ err: error }, 'addresses outside that could not be followed'),
  )
}
