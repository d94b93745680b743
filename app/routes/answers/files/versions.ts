import Joi from 'joi'
import { type VersionedKind, versionsOf } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/versions'

const query = Joi.object<{ kind: VersionedKind; id: string; slot?: string }>({
  kind: Joi.valid('content', 'template', 'file').required(),
  id: Joi.string().guid({ version: 'uuidv4' }).required(),
  slot: Joi.string().max(100),
})

/** Earlier versions of one text of the site. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { kind, id, slot } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    return Response.json({ versions: await versionsOf(site.id, kind, id, slot) })
  })
}
