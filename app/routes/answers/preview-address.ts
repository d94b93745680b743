import { previewBase } from '#server/preview'
import { requireSite } from '../../owner.server'
import type { Route } from './+types/preview-address'

/** The next address of the preview: each one opens it for some minutes only. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return Response.json({ base: previewBase(request, site.id) }, { headers: { 'cache-control': 'no-store' } })
}
