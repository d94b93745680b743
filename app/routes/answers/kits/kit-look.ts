import { contentsOf, lookOf } from '#server/kits'
import { requireKit } from '../../../owner.server'
import type { Route } from './+types/kit-look'

/** A page made with a kit. It is somebody's own: it has no origin, runs nothing and fetches nothing. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const offered = await requireKit(request, params.kitId)
  const html = lookOf(offered.kit, await contentsOf(offered), new Date().getFullYear())
  return new Response(html, {
    headers: {
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'private, no-cache',
      'content-security-policy': `sandbox; default-src 'none'; style-src data: 'unsafe-inline'; img-src data:; font-src data:; frame-ancestors 'self'`,
    },
  })
}
