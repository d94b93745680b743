import Joi from 'joi'
import { answerChange, catchUp } from '#server/sites'
import { answered, answerProblems, checkInput, requireSite } from '../../owner.server'
import type { Route } from './+types/changes'

const query = Joi.object<{ seen: number }>({ seen: Joi.number().integer().min(0).required() })

/** What a window that knows revision `seen` has missed. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { account } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { seen } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    return Response.json(await catchUp(params.siteId, account.id, seen))
  })
}

/** Makes one change, or takes one back, or makes it again. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account } = await requireSite(request, params.siteId, 'write')
  const asked = { siteId: params.siteId, accountId: account.id, text: await request.text() }
  return answered(await answerChange({ what: 'change', ...asked }))
}
