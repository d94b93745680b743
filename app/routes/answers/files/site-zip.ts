import Joi from 'joi'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { takeZip } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/site-zip'

const input = Joi.object<{ only?: 'changed' }>({ only: Joi.valid('changed') })

/** The finished site as a ZIP, or what has changed since the latest that was taken. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, account } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { only } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const { name } = nameLabel(only ? `${site.name} changed` : site.name, defaultScheme, site.language)
    return new Response(await takeZip(site, account.id, only === undefined, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${name}.zip"`,
        'cache-control': 'no-store',
      },
    })
  })
}
