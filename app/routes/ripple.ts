import { prepareChange, previewChange, readChange } from '#server/sites'
import { Problem } from '#server/platform'
import { answerProblems, readJson, requireSite } from '../owner.server'
import type { Route } from './+types/ripple'

/** What a change would touch, without making it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account } = await requireSite(request, params.siteId)
  return answerProblems(async () => {
    const change = readChange(await readJson(request))
    if (change.kind.startsWith('write'))
      throw new Problem('bad-request', 'Only changes of names and places have a ripple to show.')
    return Response.json(
      await previewChange(params.siteId, account.id, (client) => prepareChange(client, change)),
    )
  })
}
