import Joi from 'joi'
import { fetchSite, learnPlace } from '#server/deliveries'
import { log, notFound } from '#server/platform'
import { answerProblems, readJson, requireAccount } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import { readPlace } from '../../../upload/upload-input.server'
import type { Route } from './+types/bring-from-host'

const uuid = Joi.string().guid({ version: 'uuidv4' }).required()

/** Tells how a host shows that it is itself; once that was accepted, fetches what stands there, told as it comes. */
export async function action({ request, params }: Route.ActionArgs) {
  const account = await requireAccount(request)
  if (uuid.validate(params.bringingId).error) throw notFound()
  return answerProblems(async () => {
    const { place, hostKey } = readPlace((await readJson(request)) as Record<string, unknown>)
    if (hostKey === null)
      return Response.json({ hostKey: await learnPlace(account.id, place, request.signal) })
    return progressStream(
      request.signal,
      (signal, tell) => fetchSite(account.id, params.bringingId, place, hostKey, signal, tell),
      (error) => log.error({ err: error }, 'a site that could not be fetched'),
    )
  })
}
