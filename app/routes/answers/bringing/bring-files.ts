import Joi from 'joi'
import { takeBroughtFile, takeBroughtWhole, takeBroughtZip } from '#server/bringing'
import { notFound } from '#server/platform'
import { answerProblems, checkInput, requireAccount } from '../../../owner.server'
import type { Route } from './+types/bring-files'

const uuid = Joi.string().guid({ version: 'uuidv4' }).required()
const input = Joi.object<{ path: string | null; upload: string | null; whole: number | null }>({
  path: Joi.string().max(1_000).default(null),
  /** Under which it came before, in portions, and how large it is. Without them the body is the file. */
  upload: Joi.string().guid({ version: 'uuidv4' }).default(null),
  whole: Joi.number().integer().min(0).default(null),
})

/** Takes one file, its path in the address; without one, a ZIP with all of them. Its bytes are the body, or came before. */
export async function action({ request, params }: Route.ActionArgs) {
  const account = await requireAccount(request)
  if (uuid.validate(params.bringingId).error) throw notFound()
  return answerProblems(async () => {
    const { path, upload, whole } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? []
    if (upload !== null && whole !== null)
      await takeBroughtWhole(account.id, params.bringingId, upload, path, whole)
    else if (path === null) await takeBroughtZip(account.id, params.bringingId, body)
    else await takeBroughtFile(account.id, params.bringingId, path, body)
    return Response.json({ done: true })
  })
}
