import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { pool } from '#server/platform'
import { filesOfSite, zipSite } from '#server/sites'
import { requireSite } from '../../../owner.server'
import type { Route } from './+types/site-zip'

/** The finished site as a ZIP. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  const { name } = nameLabel(site.name, defaultScheme, site.language)
  return new Response(zipSite(await filesOfSite(pool(), site, request.signal)), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${name}.zip"`,
      'cache-control': 'no-store',
    },
  })
}
