import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import type pg from 'pg'
import { shownOf } from '#core/change'
import { Problem } from '#core/problems'
import { databaseError, DatabaseError, log, parseJson } from '#server/platform'
import { prepareChange, readChange, readChangeTexts } from './change-request'
import { changeSite, previewChange } from './changes'
import { stepHistory } from './step-history'

/** What a window asks for, as it came: a change to be made, or its ripple to be told. */
export interface AskedFor {
  readonly what: 'change' | 'ripple'
  readonly siteId: string
  readonly accountId: string
  /** The body of the request: JSON, or anything else. */
  readonly text: string
}

/** An answer ready to be sent. */
export interface Answered {
  readonly status: number
  readonly json: string
}

interface Body {
  readonly id: string
  readonly seen: number
  readonly do: 'change' | 'undo' | 'redo'
  readonly change?: unknown
  readonly shown: boolean
  readonly actId: string | null
}

const bodyInput = Joi.object<Body>({
  // Made by the window: asked for again, it is answered again and not made again.
  id: Joi.string()
    .guid({ version: 'uuidv4' })
    .default(() => randomUUID()),
  seen: Joi.number().integer().min(0).required(),
  do: Joi.valid('change', 'undo', 'redo').required(),
  // By kind, below.
  change: Joi.any(),
  shown: Joi.boolean().default(false),
  actId: Joi.string().guid({ version: 'uuidv4' }).default(null),
})

async function made({ what, siteId, accountId, text }: AskedFor): Promise<unknown> {
  const input = parseJson(text)
  if (what === 'ripple') {
    const change = readChange(input)
    // What is written has no ripple to show before.
    if (shownOf(change) === null) throw new Problem('bad-request')
    return previewChange(siteId, accountId, (client) => prepareChange(client, change))
  }
  const { error, value } = bodyInput.validate(input, { stripUnknown: true })
  if (error) throw new Problem('bad-request', null, { cause: error })
  const { id, seen, shown, actId, ...asked } = value
  if (asked.do !== 'change') return stepHistory(siteId, accountId, seen, asked.do, id)
  const change = readChange(asked.change)
  await readChangeTexts(change)
  const prepare = (client: pg.PoolClient) => prepareChange(client, change)
  return changeSite(siteId, accountId, seen, prepare, shown, id, actId)
}

/** Does what a window asks for; an expected failure is an answer too, with its code, sentence and detail. */
export async function answerHere(asked: AskedFor): Promise<Answered> {
  try {
    return { status: 200, json: JSON.stringify(await made(asked)) }
  } catch (thrown) {
    const error = databaseError(thrown)
    if (error instanceof DatabaseError) log.error({ err: error }, 'database')
    if (error instanceof Response) return { status: error.status, json: 'null' }
    if (!(error instanceof Problem)) throw thrown
    const { code, message, detail, status } = error
    return { status, json: JSON.stringify({ problem: { code, message, detail } }) }
  }
}
