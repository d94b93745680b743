import Joi from 'joi'
import { takeFile, takeWhole, usesOfFiles } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/files'

interface Sent {
  readonly id: string
  readonly name: string
  readonly replaces: string | null
  readonly keepsPlace: boolean
  readonly actId: string | null
  readonly seen: number
  /** Of a file that came before, in portions: how large it is. Without it the body is the file. */
  readonly whole: number | null
}
const sent = Joi.object<Sent>({
  id: Joi.string().guid({ version: 'uuidv4' }).required(),
  name: Joi.string().trim().min(1).max(300).required(),
  replaces: Joi.string().guid({ version: 'uuidv4' }).default(null),
  keepsPlace: Joi.boolean().default(false),
  actId: Joi.string().guid({ version: 'uuidv4' }).default(null),
  seen: Joi.number().integer().min(0).required(),
  whole: Joi.number().integer().min(0).default(null),
})

async function* nothing(): AsyncGenerator<Uint8Array> {}

/** Where each file is used. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return Response.json({ uses: await usesOfFiles(site) })
}

/** Takes one file: its bytes are the body, or came before in portions; the rest stands in the address. */
export async function action({ request, params }: Route.ActionArgs) {
  const { account, site } = await requireSite(request, params.siteId, 'write')
  return answerProblems(async () => {
    const { seen, whole, ...file } = checkInput(sent, Object.fromEntries(new URL(request.url).searchParams))
    if (whole !== null) return Response.json({ fileId: await takeWhole(site, account.id, seen, file, whole) })
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? nothing()
    return Response.json({ fileId: await takeFile(site, account.id, seen, file, body) })
  })
}
