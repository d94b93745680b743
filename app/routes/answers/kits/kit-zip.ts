import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { zipKit } from '#server/kits'
import { requireKit } from '../../../owner.server'
import type { Route } from './+types/kit-zip'

/** A kit as a ZIP. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const offered = await requireKit(request, params.kitId)
  const { name } = nameLabel(offered.kit.name, defaultScheme, 'en')
  return new Response(await zipKit(offered), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${name}.zip"`,
      'cache-control': 'no-store',
    },
  })
}
