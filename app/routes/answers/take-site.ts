import { takeArchive } from '#server/archives'
import { answerProblems, requireAccount } from '../../owner.server'
import type { Route } from './+types/take-site'

/** Makes a site of an archive: its ZIP is the body. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const body = request.body as AsyncIterable<Uint8Array> | null
    return Response.json({ id: await takeArchive(account.id, body ?? []) })
  })
}
