import Joi from 'joi'
import { takeArchive } from '#server/archives'
import { dropBringing, openBrought } from '#server/bringing'
import { answerProblems, checkInput, requireAccount } from '../../owner.server'
import type { Route } from './+types/take-site'

const uuid = Joi.string().guid({ version: 'uuidv4' })
interface Sent {
  /** Made by the window. */
  readonly request: string
  /** Of one that came before, in portions: under which ids, and how large it is. Without them the body is the archive. */
  readonly bringing: string
  readonly upload: string
  readonly whole: number | null
}
const sent = Joi.object<Sent>({
  request: uuid.required(),
  bringing: uuid.required(),
  upload: uuid.required(),
  whole: Joi.number().integer().min(0).default(null),
})

/** Makes a site of an archive, which is a ZIP. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return answerProblems(async () => {
    const asked = checkInput(sent, Object.fromEntries(new URL(request.url).searchParams))
    const { bringing, upload, whole } = asked
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? []
    async function* pieces() {
      yield* whole === null ? body : await openBrought(account.id, bringing, upload, whole)
    }
    const id = await takeArchive(account.id, pieces(), asked.request)
    await dropBringing(account.id, bringing)
    return Response.json({ id })
  })
}
