import Joi from 'joi'
import { bringIn, type BringingWishes, dropBringing, lookAtBringing } from '#server/bringing'
import { placeOfBringing, sendBackTo } from '#server/deliveries'
import { log, notFound } from '#server/platform'
import { answerProblems, checkInput, readJson, requireAccount } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import type { Route } from './+types/bringing'

const uuid = Joi.string().guid({ version: 'uuidv4' }).required()
const wishes = {
  names: Joi.valid('kept', 'scheme').default('kept'),
  lifts: Joi.boolean().default(true),
  generates: Joi.boolean().default(true),
  into: Joi.string().guid({ version: 'uuidv4' }),
  under: Joi.string().guid({ version: 'uuidv4' }),
  same: Joi.valid('leave', 'replace', 'beside').default('leave'),
  frame: Joi.valid('own', 'site').default('own'),
}
const lookInput = Joi.object<BringingWishes>(wishes)
const bringInput = Joi.object<BringingWishes & { name: string; request: string; drop: boolean }>({
  ...wishes,
  name: Joi.string().trim().allow('').max(200).default(''),
  // Made by the window: sent again because the answer was lost, it makes one site.
  request: Joi.string().guid({ version: 'uuidv4' }),
  drop: Joi.boolean().default(false),
}).or('request', 'drop')

function idOf(bringingId: string): string {
  if (uuid.validate(bringingId).error) throw notFound()
  return bringingId
}

/** What was understood of a site that waits to be brought in, told as it is worked out. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const asked = checkInput(lookInput, Object.fromEntries(new URL(request.url).searchParams))
    const id = idOf(params.bringingId)
    return progressStream(
      request.signal,
      (signal, tell) => lookAtBringing(account.id, id, asked, { signal, tell }),
      (error) => log.error({ err: error }, 'a site that could not be looked at'),
    )
  })
}

/** Brings it in, or lets go of it. */
export async function action({ request, params }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const { drop, request: requestId, ...asked } = checkInput(bringInput, await readJson(request))
    if (drop) {
      await dropBringing(account.id, idOf(params.bringingId))
      return Response.json({ done: true })
    }
    const id = idOf(params.bringingId)
    const place = await placeOfBringing(id)
    const siteId = await bringIn(account.id, id, asked, requestId)
    if (place && asked.into === undefined) await sendBackTo(id, place, siteId, account.id)
    return Response.json({ siteId })
  })
}
