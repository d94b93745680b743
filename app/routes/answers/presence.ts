import Joi from 'joi'
import { announceSoon } from '#server/platform'
import { program } from '../../program'
import { answerProblems, checkInput, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/presence'

const uuid = Joi.string().guid({ version: 'uuidv4' })
const input = Joi.object<{ window: string; pageId: string | null; asks: boolean }>({
  window: uuid.required(),
  pageId: uuid.allow(null).required(),
  asks: Joi.boolean().default(false),
})

/** A window tells which page it shows; the others hear it. Answers what its account may do, and of which program the server is. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, role } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { window, pageId, asks } = checkInput(input, await readJson(request))
    announceSoon({
      siteId: params.siteId,
      kind: 'presence',
      window,
      accountId: account.id,
      name: account.name,
      pageId,
      asks,
    })
    return Response.json({ role, program })
  })
}
