import { contentsOf } from '#server/kits'
import { notFound } from '#server/platform'
import { requireKit } from '../../../owner.server'
import type { Route } from './+types/kit-picture'

/** The picture that a kit has of itself. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const offered = await requireKit(request, params.kitId)
  const picture = offered.kit.picture && (await contentsOf(offered)).get(offered.kit.picture)
  if (!picture) throw notFound()
  return new Response(new Uint8Array(picture), {
    headers: {
      'content-type': 'image/png',
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, no-cache',
      etag: `"${offered.kit.picture}"`,
      'content-security-policy': `sandbox; default-src 'none'`,
    },
  })
}
