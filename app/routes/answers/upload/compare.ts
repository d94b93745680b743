import Joi from 'joi'
import { findDestination, lookThere } from '#server/deliveries'
import { log, notFound, pool } from '#server/platform'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import type { Route } from './+types/compare'

const input = Joi.object<{ to: string }>({ to: Joi.string().guid({ version: 'uuidv4' }).required() })

/** Asks a destination what is there, and tells how much of it was read back; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const stored = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const { to } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const destination = await findDestination(pool(), to, stored.site.id, stored.account.id)
    if (!destination) throw notFound()
    return progressStream(
      request.signal,
      (signal, tell) => lookThere(destination, stored, signal, tell),
      (error) => log.error({ err: error }, 'a destination that could not be compared'),
    )
  })
}
