import Joi from 'joi'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { archiveSite } from '#server/archives'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/archive-zip'

const query = Joi.object<{ versions: boolean }>({ versions: Joi.boolean().default(false) })

/** Everything of a site, as files from which any server can make it again. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'manage')
  return answerProblems(async () => {
    const { versions } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    const { name } = nameLabel(site.name, defaultScheme, site.language)
    return new Response(await archiveSite(site, { withVersions: versions }, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${name || 'site'}-archive.zip"`,
        'cache-control': 'no-store',
      },
    })
  })
}
