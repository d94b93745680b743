import { prepareChange, previewChange, readChange } from '#server/sites'
import { shownOf } from '#core/change'
import { Problem } from '#core/problems'
import { answerProblems, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/ripple'

/** What a change would touch, without making it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account } = await requireSite(request, params.siteId)
  return answerProblems(async () => {
    const change = readChange(await readJson(request))
    // What is written has no ripple to show before.
    if (shownOf(change) === null) throw new Problem('bad-request')
    return Response.json(
      await previewChange(params.siteId, account.id, (client) => prepareChange(client, change)),
    )
  })
}
