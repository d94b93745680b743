import Joi from 'joi'
import mime from 'mime-types'
import { findDestination, readSide, type Side } from '#server/deliveries'
import { notFound, pool } from '#server/platform'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/difference'

const side = Joi.alternatives(Joi.valid('here', 'there'), Joi.string().guid({ version: 'uuidv4' })).required()
const input = Joi.object<{ to: string; path: string; side: string }>({
  to: Joi.string().guid({ version: 'uuidv4' }).required(),
  path: Joi.string().max(2_000).required(),
  side,
})

/** A file's bytes on one side: the site's, the host's, or as a delivery had left it; 204 where it is not. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const stored = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const asked = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const { account, site } = stored
    const destination = await findDestination(pool(), asked.to, site.id, account.id)
    if (!destination) throw notFound()
    const which: Side = asked.side === 'here' || asked.side === 'there' ? asked.side : { after: asked.side }
    const bytes = await readSide(stored, account.id, destination, which, asked.path, request.signal)
    if (bytes === null) return new Response(null, { status: 204, headers: { 'cache-control': 'no-store' } })
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type':
          mime.contentType(asked.path.slice(asked.path.lastIndexOf('/') + 1)) || 'application/octet-stream',
        'cache-control': 'no-store',
        // It is anybody's: opened by itself it has no origin and runs nothing.
        'content-security-policy': `sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:`,
      },
    })
  })
}
