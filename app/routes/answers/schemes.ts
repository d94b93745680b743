import Joi from 'joi'
import { schemeInput } from '#core/change/inputs'
import { deleteScheme, listSchemes, putScheme } from '#server/sites'
import { Problem } from '#core/problems'
import { pool } from '#server/platform'
import { answerProblems, readJson, requireAccount } from '../../owner.server'
import type { Route } from './+types/schemes'

const name = Joi.string().trim().min(1).max(100).required()
const keepInput = Joi.object({ do: Joi.valid('keep').required(), name, scheme: schemeInput.required() })
const forgetInput = Joi.object({ do: Joi.valid('forget').required(), name })

/** The account's naming schemes. */
export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  return Response.json({ schemes: await listSchemes(pool(), account.id) })
}

/** Keeps a scheme under a name, or forgets one; tells those that there are then. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  const input = await readJson(request)
  return answerProblems(async () => {
    const forget = forgetInput.validate(input)
    if (!forget.error) await deleteScheme(pool(), account.id, forget.value.name)
    else {
      const keep = keepInput.validate(input)
      if (keep.error) throw new Problem('bad-scheme')
      await putScheme(pool(), account.id, { name: keep.value.name, scheme: keep.value.scheme })
    }
    return Response.json({ schemes: await listSchemes(pool(), account.id) })
  })
}
