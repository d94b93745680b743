import { answerChange } from '#server/sites'
import { answered, requireSite } from '../../owner.server'
import type { Route } from './+types/ripple'

/** What a change would touch, without making it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account } = await requireSite(request, params.siteId, 'write')
  const asked = { siteId: params.siteId, accountId: account.id, text: await request.text() }
  return answered(await answerChange({ what: 'ripple', ...asked }))
}
