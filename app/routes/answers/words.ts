import Joi from 'joi'
import { fieldsOfPage, fieldsOfSite } from '#core/change'
import { mostWords, type Wanted } from '#core/find'
import { findInSite, longestSaid, mostFoundTold, replaceInSite, type Replacing } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/words'

const wanted = {
  words: Joi.string().max(mostWords).required(),
  isExact: Joi.boolean().default(false),
  isWhole: Joi.boolean().default(false),
  inSource: Joi.boolean().default(false),
}
const asked = Joi.object<Wanted>(wanted)

const id = Joi.string().guid({ version: 'uuidv4' }).required()
const line = Joi.string().max(longestSaid).required()
const owner = Joi.alternatives(
  Joi.object({
    kind: Joi.valid('page', 'template', 'file').required(),
    id,
    slot: Joi.string().max(100),
    was: Joi.string().hex().length(64).required(),
  }),
  Joi.object({
    kind: Joi.valid('page').required(),
    id,
    field: Joi.valid(...fieldsOfPage).required(),
    was: line,
  }),
  Joi.object({ kind: Joi.valid('site').required(), field: Joi.valid(...fieldsOfSite).required(), was: line }),
)
const replacing = Joi.object<Replacing>({
  wanted: asked.required(),
  by: Joi.string().allow('').max(2_000).required(),
  chosen: Joi.array().items(owner).min(1).max(mostFoundTold).required(),
  seen: Joi.number().integer().min(0).required(),
  shown: Joi.boolean().default(false),
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
