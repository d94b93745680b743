import { createReadStream } from 'node:fs'
import path from 'node:path'
import Joi from 'joi'
import { beginBringing, takeBroughtZip } from '#server/bringing'
import { answerProblems, checkInput, readJson, requireAccount } from '../../../owner.server'
import type { Route } from './+types/bringings'

const input = Joi.object<{ name: string; example: boolean }>({
  name: Joi.string().trim().allow('').max(200).default(''),
  example: Joi.boolean().default(false),
})

/** Begins to bring a site in; the example comes with its files. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const { name, example } = checkInput(input, await readJson(request))
    const id = await beginBringing(account.id, name)
    if (example)
      await takeBroughtZip(account.id, id, createReadStream(path.resolve('demo/saltings-ferry.zip')))
    return Response.json({ id })
  })
}
