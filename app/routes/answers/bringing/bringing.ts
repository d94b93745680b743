import Joi from 'joi'
import {
  bringIn,
  type BringingWishes,
  correctBringing,
  type Corrections,
  dropBringing,
  lookAtBringing,
} from '#server/bringing'
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
  planBy: Joi.valid('found', 'folders', 'menu', 'links').default('found'),
  into: Joi.string().guid({ version: 'uuidv4' }),
  under: Joi.string().guid({ version: 'uuidv4' }),
  same: Joi.valid('leave', 'replace', 'beside').default('leave'),
  frame: Joi.valid('own', 'site').default('own'),
}
const lookInput = Joi.object<BringingWishes>(wishes)
/** The plan as its author corrected it: as many lines as a look shows. */
const planInput = Joi.array()
  .items(
    Joi.object({
      path: Joi.string().max(1_000).required(),
      label: Joi.string().max(500).allow('').required(),
      depth: Joi.number().integer().min(0).max(200).required(),
    }),
  )
  .max(20_000)
  .allow(null)
const offset = Joi.number().integer().min(0).max(100_000_000).required()
/** Where its author moved the edges of slots. */
const marksInput = Joi.array()
  .items(
    Joi.object({
      path: Joi.string().max(1_000).required(),
      start: offset,
      end: offset,
      to: Joi.valid('slot', 'frame').required(),
    }),
  )
  .max(1_000)
  .allow(null)
const bringInput = Joi.object<
  BringingWishes & { name: string; request: string; drop: boolean } & Partial<Corrections>
>({
  ...wishes,
  name: Joi.string().trim().allow('').max(200).default(''),
  // Made by the window: sent again because the answer was lost, it makes one site.
  request: Joi.string().guid({ version: 'uuidv4' }),
  drop: Joi.boolean().default(false),
  plan: planInput,
  marks: marksInput,
}).or('request', 'drop', 'plan', 'marks')

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

/** Brings it in, corrects what was found, or lets go of it. */
export async function action({ request, params }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const {
      drop,
      request: requestId,
      plan,
      marks,
      ...asked
    } = checkInput(bringInput, await readJson(request))
    if (drop) {
      await dropBringing(account.id, idOf(params.bringingId))
      return Response.json({ done: true })
    }
    const id = idOf(params.bringingId)
    if (plan !== undefined || marks !== undefined) {
      await correctBringing(account.id, id, { plan, marks })
      return Response.json({ done: true })
    }
    const place = await placeOfBringing(id)
    const siteId = await bringIn(account.id, id, asked, requestId)
    if (place && asked.into === undefined) await sendBackTo(id, place, siteId, account.id)
    return Response.json({ siteId })
  })
}
