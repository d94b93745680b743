import Joi from 'joi'
import { listMade, type MadeFile, streamMade } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../../owner.server'
import type { Route } from './+types/made-files'

const input = Joi.object<{ files: MadeFile[] }>({
  files: Joi.array()
    .items(
      Joi.object({
        path: Joi.string().max(4_000).required(),
        hash: Joi.string().hex().length(64).required(),
      }),
    )
    .min(1)
    .max(1_000)
    .required(),
})

/** The list of all files of the finished site. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => Response.json(await listMade(site, request.signal)))
}

/** The bytes of some of them, one after the other. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { files } = checkInput(input, await readJson(request))
    return new Response(await streamMade(site, files, request.signal), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
    })
  })
}
