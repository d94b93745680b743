import Joi from 'joi'
import { redirect } from 'react-router'
import { type Account, accountOf } from '#server/accounts'
import { DatabaseError, pool } from '#server/database/pool'
import { loadSite, type StoredSite } from '#server/database/sites'
import { log } from '#server/log'
import { notFound, Problem } from '#server/problem'

const uuid = Joi.string().guid({ version: 'uuidv4' })

/** The account a request comes from; without one the visitor is sent to sign in. */
export async function requireAccount(request: Request): Promise<Account> {
  const account = await accountOf(request)
  if (account) return account
  const { pathname, search } = new URL(request.url)
  throw redirect(`/sign-in?next=${encodeURIComponent(pathname + search)}`)
}

/** The account and its site of this id; another's site answers 404, as one that is not there does. */
export async function requireSite(
  request: Request,
  siteId: string,
): Promise<{ account: Account } & StoredSite> {
  const account = await requireAccount(request)
  if (uuid.validate(siteId).error) throw notFound()
  const stored = await loadSite(pool(), siteId, account.id)
  if (!stored) throw notFound()
  return { account, ...stored }
}

/** Runs an action; an expected failure becomes an answer with its code, sentence and detail. */
export async function answerProblems<T>(work: () => Promise<T>): Promise<T | Response> {
  try {
    return await work()
  } catch (error) {
    // Of what the database cannot do now nothing is lost: the window keeps it and asks again.
    if (error instanceof DatabaseError && (error.code === 'disk-full' || error.code === 'unavailable')) {
      log.error({ err: error }, 'database')
      return Response.json(
        { problem: { code: error.code, message: error.message, detail: null } },
        { status: 503 },
      )
    }
    if (!(error instanceof Problem)) throw error
    const { code, message, detail, status } = error
    return Response.json({ problem: { code, message, detail } }, { status })
  }
}

/** Checks a form or a query with Joi, once, at the edge. */
export function checkInput<T>(schema: Joi.ObjectSchema<T>, input: unknown): T {
  const { error, value } = schema.validate(input, { abortEarly: true, stripUnknown: true })
  if (error) throw new Problem('bad-input', error.message, 422, { field: error.details[0]?.path[0] ?? null })
  return value as T
}
