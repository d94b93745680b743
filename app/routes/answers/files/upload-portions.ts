import Joi from 'joi'
import { dropPartial, receivedBytes } from '#server/contents'
import { notFound, pool } from '#server/platform'
import { takePortions } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/upload-portions'

const uuid = Joi.string().guid({ version: 'uuidv4' }).required()
const input = Joi.object<{ from: number; drop: boolean }>({
  from: Joi.number().integer().min(0).default(0),
  drop: Joi.boolean().default(false),
})

async function siteAndId(request: Request, params: { siteId: string; uploadId: string }) {
  const { site } = await requireSite(request, params.siteId, 'write')
  if (uuid.validate(params.uploadId).error) throw notFound()
  return { site, id: params.uploadId }
}

/** How much of a file is here. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, id } = await siteAndId(request, params)
  return Response.json({ received: await receivedBytes(pool(), { siteId: site.id }, id) })
}

/** Takes the next bytes of a file, `from` on; or lets go of what is here. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site, id } = await siteAndId(request, params)
  return answerProblems(async () => {
    const { from, drop } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    if (drop) {
      await dropPartial(pool(), { siteId: site.id }, id)
      return Response.json({ received: 0 })
    }
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? nothing()
    return Response.json({ received: await takePortions(site, id, from, body) })
  })
}

async function* nothing(): AsyncGenerator<Uint8Array> {}
