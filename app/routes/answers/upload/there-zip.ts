import Joi from 'joi'
import { findDestination, zipThere } from '#server/deliveries'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { notFound, pool } from '#server/platform'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/there-zip'

const input = Joi.object<{ to: string }>({ to: Joi.string().guid({ version: 'uuidv4' }).required() })

/** What stands at a destination, as a ZIP. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, account } = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const { to } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const destination = await findDestination(pool(), to, site.id, account.id)
    if (!destination) throw notFound()
    const { name } = nameLabel(`${site.name} at ${destination.name}`, defaultScheme, site.language)
    return new Response(await zipThere(destination, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${name}.zip"`,
        'cache-control': 'no-store',
      },
    })
  })
}
