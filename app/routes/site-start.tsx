import { redirect } from 'react-router'
import { requireSite } from '../owner.server'
import type { Route } from './+types/site-start'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId, 'look')
  return redirect(`/sites/${params.siteId}/plan`)
}
