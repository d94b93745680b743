import Joi from 'joi'
import { findDestination, seeAsVisitors } from '#server/deliveries'
import { log, notFound, pool } from '#server/platform'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import type { Route } from './+types/see-as-visitors'

const id = Joi.string().guid({ version: 'uuidv4' })
const input = Joi.object<{ to: string; delivery?: string }>({ to: id.required(), delivery: id })

/** Asks for what was sent as visitors do, all of it or what one delivery sent, and tells how far it is; whoever hangs up cancels it. */
export async function action({ request, params }: Route.ActionArgs) {
  const stored = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const { to, delivery = null } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const destination = await findDestination(pool(), to, stored.site.id, stored.account.id)
    if (!destination) throw notFound()
    return progressStream(
      request.signal,
      (signal, tell) => seeAsVisitors(stored, stored.account.id, destination, delivery, signal, tell),
      (error) => log.error({ err: error }, 'a site that could not be seen'),
    )
  })
}
