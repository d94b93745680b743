import { publicPathOf } from '#core/template'
import type { Site } from '#core/site'
import { maybeOne, pool } from '#server/platform'
import { filesOfSite, type SiteFiles } from '#server/sites'

/** The finished site as it is for one destination: where visitors see it tells how its error pages refer to the rest. */
export async function filesFor(site: Site, destinationId: string, signal?: AbortSignal): Promise<SiteFiles> {
  const row = await maybeOne<{ publicAddress: string | null }>(
    pool(),
    'SELECT public_address AS "publicAddress" FROM destinations WHERE id = $1',
    [destinationId],
  )
  return filesOfSite(pool(), site, signal, publicPathOf(row?.publicAddress ?? null))
}
