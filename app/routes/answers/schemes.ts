import Joi from 'joi'
import { schemeInput } from '#core/change/inputs'
import { deleteScheme, listSchemes, putScheme } from '#server/sites'
import { Problem } from '#core/problems'
import { pool } from '#server/platform'
import { readJson, requireAccount } from '../../owner.server'
import { isAway, sendOrTell } from '../../parts/unless-offline'
import type { Route } from './+types/schemes'

const name = Joi.string().trim().min(1).max(100).required()
const keepInput = Joi.object({ do: Joi.valid('keep').required(), name, scheme: schemeInput.required() })
const forgetInput = Joi.object({ do: Joi.valid('forget').required(), name })

/** The account's naming schemes. */
export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  return { schemes: await listSchemes(pool(), account.id) }
}

/** Keeps a scheme under a name, or forgets one. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  const input = await readJson(request)
  try {
    const forget = forgetInput.validate(input)
    if (!forget.error) {
      await deleteScheme(pool(), account.id, forget.value.name)
      return { done: true }
    }
    const keep = keepInput.validate(input)
    if (keep.error) throw new Problem('bad-scheme')
    await putScheme(pool(), account.id, { name: keep.value.name, scheme: keep.value.scheme })
    return { done: true }
  } catch (error) {
    if (error instanceof Problem) return { problem: { message: error.message } }
    throw error
  }
}

/** Null while nobody answers: what shows them has more to show. */
export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs) {
  try {
    return await serverLoader()
  } catch (error) {
    if (!isAway(error)) throw error
    return { schemes: null }
  }
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrTell(() => serverAction())
