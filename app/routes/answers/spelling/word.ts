import Joi from 'joi'
import { longestTold } from '#core/spelling'
import { mendWord, type MendingWord, nearWords } from '#server/sites'
import { answerProblems, checkInput, readJson, requireSite } from '../../../owner.server'
import type { Route } from './+types/word'

const word = Joi.string().min(1).max(longestTold).required()
const language = Joi.string().max(100).required()
const asked = Joi.object<Pick<MendingWord, 'word' | 'language'>>({ word, language })
const mending = Joi.object<MendingWord>({
  word,
  language,
  by: Joi.string().trim().min(1).max(200).required(),
  seen: Joi.number().integer().min(0).required(),
  shown: Joi.boolean().default(false),
  requestId: Joi.string().guid({ version: 'uuidv4' }).required(),
})

/** What a word may be meant for. */
export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { word, language } = checkInput(asked, Object.fromEntries(new URL(request.url).searchParams))
    return Response.json({ near: await nearWords(word, language, request.signal) })
  })
}

/** Puts another word in its place, wherever it stands. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, ...stored } = await requireSite(request, params.siteId, 'write')
  return answerProblems(async () => {
    const told = checkInput(mending, await readJson(request))
    return Response.json(await mendWord(stored, account.id, told, request.signal))
  })
}
