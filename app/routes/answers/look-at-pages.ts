import { log } from '#server/platform'
import { lookAtPages } from '#server/sites'
import { requireSite } from '../../owner.server'
import { progressStream } from '../../progress.server'
import type { Route } from './+types/look-at-pages'

/** Looks at the finished pages, and tells how far it is; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site } = await requireSite(request, params.siteId, 'write')
  return progressStream(
    request.signal,
    (signal, tell) => lookAtPages(site, signal, tell),
    (error) => log.error({ err: error }, 'finished pages that could not be looked at'),
  )
}
