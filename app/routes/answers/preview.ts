import { servePreview } from '#server/preview'
import type { Route } from './+types/preview'

/** A file of a site as a host would serve it. The pathname is taken as it came, not decoded. */
export function loader({ request, params }: Route.LoaderArgs) {
  const { pathname } = new URL(request.url)
  const rest = pathname.split('/').slice(3).join('/')
  return servePreview(request, params.token, rest)
}
