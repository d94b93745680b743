import Joi from 'joi'
import { data, redirect, redirectDocument } from 'react-router'
import { type Account, accountOf, secondStepState } from '#server/accounts'
import { Problem, sentenceOf } from '#core/problems'
import {
  config,
  countRequest,
  DatabaseError,
  databaseError,
  log,
  noteAccount,
  noteEvent,
  notFound,
  parseJson,
  pool,
  storable,
  tooMany,
} from '#server/platform'
import { findKit, type OfferedKit } from '#server/kits'
import type { Right } from '#core/site'
import { type Answered, loadSite, type SiteOfSomebody } from '#server/sites'
import { inNameOf } from './session/header'

const uuid = Joi.string().guid({ version: 'uuidv4' })

/** A database that is away is told as that, on every page: not as a fault of what was asked for. */
async function unlessAway<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    const known = databaseError(error)
    if (!(known instanceof DatabaseError)) throw error
    log.error({ err: error }, 'database')
    throw new Response(known.message, { status: 503 })
  }
}

/** A form's fields as texts; what cannot be read as a form is answered 400. */
export async function readForm(request: Request): Promise<Record<string, string>> {
  const form = await request.formData().catch(() => {
    throw new Response('This request could not be read.', { status: 400 })
  })
  return Object.fromEntries(
    [...form].flatMap(([name, value]) =>
      typeof value === 'string' ? [[storable(name), storable(value)]] : [],
    ),
  )
}

/** A body as JSON; null for what is none. */
export const readJson = async (request: Request): Promise<unknown> => parseJson(await request.text())

/**
 * The address of the view that a request is for. A window that stays asks for its data alone, at an address of its own
 * (single fetch: `/sites.data?_routes=…`).
 */
export function viewAddress(request: Request): { readonly pathname: string; readonly search: string } {
  const { pathname, searchParams } = new URL(request.url)
  searchParams.delete('_routes')
  const query = searchParams.toString()
  return {
    pathname: pathname
      .replace(/^\/_root\.data$/, '/')
      .replace(/\/_\.data$/, '/')
      .replace(/\.data$/, ''),
    search: query && `?${query}`,
  }
}

/**
 * The account a request comes from; without one the visitor is sent to sign in. A window that says in whose name it asks is
 * answered 401 instead, also where somebody else has signed in beside it: it keeps what it has until its own account is back.
 */
export async function requireAccount(request: Request): Promise<Account> {
  const account = await unlessAway(() => accountOf(request))
  const inName = request.headers.get(inNameOf)
  if (inName !== null && inName !== account?.id) throw signedOut()
  const { pathname, search } = viewAddress(request)
  if (account) {
    noteAccount(account.id)
    const seconds = await countRequest(account.id)
    // As text: a window takes it for a server that is away, keeps what it has and asks again.
    if (seconds !== null)
      throw new Response(tooMany('This account asks very often.', seconds).message, {
        status: 429,
        headers: { 'retry-after': String(seconds) },
      })
    if (
      config().isSecondStepNeeded &&
      pathname !== '/account' &&
      (await secondStepState(account.id)) !== 'on'
    )
      throw redirect('/account#second-step')
    return account
  }
  // As a whole document: the one that asks is the window of somebody who is signed out, and keeps what was typed as it goes.
  throw redirectDocument(`/sign-in?next=${encodeURIComponent(pathname + search)}`)
}

/**
 * The account, and the site of this id that it may do this with. A site it takes no part in answers 404, as one that is not
 * there does; one that it takes part in, with less, 403.
 */
export async function requireSite(
  request: Request,
  siteId: string,
  right: Right,
): Promise<{ account: Account } & SiteOfSomebody> {
  const account = await requireAccount(request)
  if (uuid.validate(siteId).error) throw notFound()
  try {
    const stored = await unlessAway(() => loadSite(pool(), siteId, account.id, { right }))
    if (!stored) throw notFound()
    return { account, ...stored }
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    if (error.status === 403) noteEvent('not allowed', { siteId, right })
    throw problemAnswer(error)
  }
}

/** Whose hosts a site goes to, and who asks. */
export const destinationOwner = ({ account, site, ownerId }: { account: Account } & SiteOfSomebody) => ({
  siteId: site.id,
  accountId: account.id,
  hostsOf: ownerId,
})

/** With a challenge, as every 401 has (RFC 9110, section 15.5.2); no browser knows it, and asks for a password of its own. */
function signedOut(): Response {
  const answer = problemAnswer(new Problem('signed-out'))
  answer.headers.set('www-authenticate', 'Session realm="Rubricant"')
  return answer
}

const problemAnswer = ({ code, message, detail, status }: Problem) =>
  Response.json({ problem: { code, message, detail } }, { status })

/** A kit that ships or that the account keeps; another's answers 404, as one that is not there does. */
export async function requireKit(request: Request, kitId: string): Promise<OfferedKit> {
  const account = await requireAccount(request)
  const kit = await unlessAway(() => findKit(account.id, kitId))
  if (!kit) throw notFound()
  return kit
}

/** A failure that was expected; anything else is thrown on. */
function expected(thrown: unknown): Problem {
  const error = databaseError(thrown)
  // Of what the database cannot do now nothing is lost: the window keeps it and asks again.
  if (error instanceof DatabaseError) log.error({ err: error }, 'database')
  if (!(error instanceof Problem)) throw thrown
  return error
}

/** Runs an action; an expected failure becomes an answer with its code, sentence and detail. */
export async function answerProblems<T>(work: () => Promise<T>): Promise<T | Response> {
  try {
    return await work()
  } catch (thrown) {
    return problemAnswer(expected(thrown))
  }
}

/** Runs the action of a form; an expected failure becomes the sentence that the form shows, with what else it asks for. */
export async function tellProblem<T, Beside extends object = object>(
  work: () => Promise<T>,
  beside?: Beside,
) {
  try {
    return await work()
  } catch (thrown) {
    const { message, status } = expected(thrown)
    return data({ ...(beside as Beside), problem: message }, { status })
  }
}

/** Checks a form or a query with Joi, once, at the edge. */
export function checkInput<T>(schema: Joi.ObjectSchema<T>, input: unknown): T {
  const { error, value } = schema.validate(input, {
    abortEarly: true,
    stripUnknown: true,
    // What a schema has no words of its own for is no mistake of an author's.
    messages: { '*': sentenceOf('bad-request', undefined) },
  })
  if (error)
    throw new Problem(
      'bad-input',
      { why: error.message },
      { detail: { field: error.details[0]?.path[0] ?? null } },
    )
  return value as T
}

/** An answer that is JSON already. */
export function answered({ status, json }: Answered): Response {
  if (status === 404) throw notFound()
  return new Response(json, { status, headers: { 'content-type': 'application/json' } })
}
