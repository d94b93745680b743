import { log } from '#server/platform'
import { spellingOf } from '#server/sites'
import { requireSite } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import type { Route } from './+types/look'

/** Holds a site against dictionaries, and tells how far it is; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return progressStream(
    request.signal,
    (signal, tell) => spellingOf(site, signal, tell),
    (error) => log.error({ err: error }, 'spelling that could not be looked at'),
  )
}
