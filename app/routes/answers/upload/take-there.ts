import Joi from 'joi'
import { findDestination, takeThere } from '#server/deliveries'
import { log, notFound, pool } from '#server/platform'
import { answerProblems, checkInput, readJson, requireSite } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import type { Route } from './+types/take-there'

const input = Joi.object<{ to: string; paths: string[] | null }>({
  to: Joi.string().guid({ version: 'uuidv4' }).required(),
  paths: Joi.array().items(Joi.string().max(2_000)).min(1).max(20_000).allow(null).required(),
})

/** Fetches files of a destination into what waits to be brought in, told as they come. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site, account } = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const { to, paths } = checkInput(input, await readJson(request))
    const destination = await findDestination(pool(), to, site.id, account.id)
    if (!destination) throw notFound()
    return progressStream(
      request.signal,
      (signal, tell) => takeThere(account.id, destination, paths && new Set(paths), signal, tell),
      (error) => log.error({ err: error }, 'files that could not be taken from there'),
    )
  })
}
