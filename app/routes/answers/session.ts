import { accountOf } from '#server/accounts'
import type { Whose } from '../../session/session'
import type { Route } from './+types/session'

/** Whose cookie the browser has, which a window asks that has been told it is not its account's any more. */
export async function loader({ request }: Route.LoaderArgs) {
  const account = await accountOf(request)
  const whose: Whose = { accountId: account?.id ?? null, email: account?.email ?? null }
  return Response.json(whose)
}
