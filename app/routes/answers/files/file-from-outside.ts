import Joi from 'joi'
import { takeFromOutside } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../../owner.server'
import type { Route } from './+types/file-from-outside'

interface Wanted {
  readonly id: string
  readonly address: string
  readonly keepsPlace: boolean
  readonly seen: number
}
const wanted = Joi.object<Wanted>({
  id: Joi.string().guid({ version: 'uuidv4' }).required(),
  address: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .max(4000)
    .required(),
  keepsPlace: Joi.boolean().default(false),
  seen: Joi.number().integer().min(0).required(),
})

/** Takes a picture that stands at another site; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, site } = await requireSite(request, params.siteId, 'write')
  return answerProblems(async () => {
    const { seen, ...picture } = checkInput(wanted, await readJson(request))
    const fileId = await takeFromOutside(site, account.id, seen, picture, request.signal)
    return Response.json({ fileId })
  })
}
