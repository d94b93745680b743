import Joi from 'joi'
import type { OwnedText } from '#core/change'
import { mostWords, type Wanted } from '#core/find'
import { findInSite, mostFoundTold, replaceInSite } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/words'

const wanted = {
  words: Joi.string().max(mostWords).required(),
  isExact: Joi.boolean().default(false),
  isWhole: Joi.boolean().default(false),
  inSource: Joi.boolean().default(false),
}
const asked = Joi.object<Wanted>(wanted)

interface Replacing {
  readonly wanted: Wanted
  readonly by: string
  readonly chosen: readonly OwnedText[]
  readonly seen: number
  readonly requestId: string
}
const id = Joi.string().guid({ version: 'uuidv4' }).required()
const replacing = Joi.object<Replacing>({
  wanted: asked.required(),
  by: Joi.string().allow('').max(2_000).required(),
  chosen: Joi.array()
    .items(
      Joi.object({
        kind: Joi.valid('page', 'template', 'file').required(),
        id,
        slot: Joi.string().max(100),
        was: Joi.string().hex().length(64).required(),
      }),
    )
    .min(1)
    .max(mostFoundTold)
    .required(),
  seen: Joi.number().integer().min(0).required(),
  requestId: id,
})

/** Where words stand in a site. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const query = Object.fromEntries(new URL(request.url).searchParams)
    return Response.json(await findInSite(site, checkInput(asked, query), request.signal))
  })
}

/** Puts something else in their place. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, site } = await requireSite(request, params.siteId, 'write')
  return answerProblems(async () => {
    const told = checkInput(replacing, await readJson(request))
    return Response.json(await replaceInSite(site, account.id, told, request.signal))
  })
}
