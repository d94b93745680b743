import { takeKit } from '#server/kits'
import { answerProblems, requireAccount } from '../../../owner.server'
import type { Route } from './+types/take-kit'

/** Takes a kit in: its ZIP is the body. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const body = request.body as AsyncIterable<Uint8Array> | null
    return Response.json({ id: await takeKit(account.id, body ?? []) })
  })
}
