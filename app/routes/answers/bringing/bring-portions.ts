import Joi from 'joi'
import { broughtBytes, takeBroughtPortions } from '#server/bringing'
import { notFound } from '#server/platform'
import { answerProblems, checkInput, requireAccount } from '../../../owner.server'
import type { Route } from './+types/bring-portions'

const uuid = Joi.string().guid({ version: 'uuidv4' }).required()
const input = Joi.object<{ from: number }>({ from: Joi.number().integer().min(0).default(0) })

async function accountAndIds(request: Request, params: { bringingId: string; uploadId: string }) {
  const account = await requireAccount(request)
  if (uuid.validate(params.bringingId).error || uuid.validate(params.uploadId).error) throw notFound()
  return [account.id, params.bringingId, params.uploadId] as const
}

/** How much of a file, or of a ZIP, is here. */
export async function loader({ request, params }: Route.LoaderArgs) {
  return Response.json({ received: await broughtBytes(...(await accountAndIds(request, params))) })
}

/** Takes the next bytes of one, `from` on. */
export async function action({ request, params }: Route.ActionArgs) {
  const ids = await accountAndIds(request, params)
  return answerProblems(async () => {
    const { from } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? []
    return Response.json({ received: await takeBroughtPortions(...ids, from, body) })
  })
}
