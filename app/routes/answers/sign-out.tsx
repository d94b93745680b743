import { redirect } from 'react-router'
import { endSession } from '#server/accounts'
import type { Route } from './+types/sign-out'

export async function action({ request }: Route.ActionArgs) {
  return redirect('/sign-in', { headers: { 'set-cookie': await endSession(request) } })
}

export const loader = () => redirect('/sites')
