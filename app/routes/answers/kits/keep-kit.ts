import Joi from 'joi'
import { keepKit, kitWords } from '#server/kits'
import { answerProblems, checkInput, readJson, requireSite } from '../../../owner.server'
import type { Route } from './+types/keep-kit'

const input = Joi.object<{ name: string; about: string }>(kitWords)

/** Keeps what the site begins with as a kit of the account. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const said = checkInput(input, await readJson(request))
    return Response.json({ id: await keepKit(site, account.id, said) })
  })
}
