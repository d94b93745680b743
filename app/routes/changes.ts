import Joi from 'joi'
import { prepareChange, readChange } from '#server/change-input'
import { catchUp, changeSite, stepHistory } from '#server/site-changes'
import { answerProblems, checkInput, requireSite } from '../owner.server'
import type { Route } from './+types/changes'

const body = Joi.object<{ seen: number; do: 'change' | 'undo' | 'redo'; change?: unknown; shown: boolean }>({
  seen: Joi.number().integer().min(0).required(),
  do: Joi.valid('change', 'undo', 'redo').required(),
  change: Joi.object().unknown(),
  shown: Joi.boolean().default(false),
})
const query = Joi.object<{ seen: number }>({ seen: Joi.number().integer().min(0).required() })

/** What a window that knows revision `seen` has missed. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { account } = await requireSite(request, params.siteId)
  return answerProblems(async () => {
    const { seen } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    return Response.json(await catchUp(params.siteId, account.id, seen))
  })
}

/** Makes one change, or takes one back, or makes it again. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account } = await requireSite(request, params.siteId)
  return answerProblems(async () => {
    const input = checkInput(body, await request.json().catch(() => null))
    const saved =
      input.do === 'change'
        ? await changeSite(
            params.siteId,
            account.id,
            input.seen,
            (client) => prepareChange(client, readChange(input.change)),
            input.shown,
          )
        : await stepHistory(params.siteId, account.id, input.seen, input.do)
    return Response.json(saved)
  })
}
