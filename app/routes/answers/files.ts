import Joi from 'joi'
import { takeFile, usesOfFiles } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../owner.server'
import type { Route } from './+types/files'

const sent = Joi.object<{ id: string; name: string; replaces: string | null; seen: number }>({
  id: Joi.string().guid({ version: 'uuidv4' }).required(),
  name: Joi.string().trim().min(1).max(300).required(),
  replaces: Joi.string().guid({ version: 'uuidv4' }).default(null),
  seen: Joi.number().integer().min(0).required(),
})

async function* nothing(): AsyncGenerator<Uint8Array> {}

/** Where each file is used. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId)
  return Response.json({ uses: await usesOfFiles(site) })
}

/** Takes one file: its bytes are the body, the rest stands in the address. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, site } = await requireSite(request, params.siteId)
  return answerProblems(async () => {
    const { seen, ...file } = checkInput(sent, Object.fromEntries(new URL(request.url).searchParams))
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? nothing()
    return Response.json(await takeFile(site, account.id, seen, file, body))
  })
}
