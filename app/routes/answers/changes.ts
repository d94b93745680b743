import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import type pg from 'pg'
import { catchUp, changeSite, prepareChange, readChange, readChangeText, stepHistory } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/changes'

interface Body {
  readonly id: string
  readonly seen: number
  readonly do: 'change' | 'undo' | 'redo'
  readonly change?: unknown
  readonly shown: boolean
}

const body = Joi.object<Body>({
  // Made by the window: asked for again, it is answered again and not made again.
  id: Joi.string()
    .guid({ version: 'uuidv4' })
    .default(() => randomUUID()),
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
    const { id, seen, shown, ...input } = checkInput(body, await readJson(request))
    if (input.do !== 'change')
      return Response.json(await stepHistory(params.siteId, account.id, seen, input.do, id))
    const change = readChange(input.change)
    await readChangeText(change)
    const prepare = (client: pg.PoolClient) => prepareChange(client, change)
    return Response.json(await changeSite(params.siteId, account.id, seen, prepare, shown, id))
  })
}
