import { redirect } from 'react-router'
import { requireAccount } from '../owner.server'
import type { Route } from './+types/start'

export async function loader({ request }: Route.LoaderArgs) {
  await requireAccount(request)
  return redirect('/sites')
}
