import { originOf } from '#server/accounts'
import { answerNote, listNotes, openSharedLook, writeNote } from '#server/notes'
import { Problem } from '#core/problems'
import { requestContext } from '../../edge/context'
import { visitorRequest } from '../../notes/note-input.server'
import { answerProblems, checkInput, readJson } from '../../owner.server'
import type { Route } from './+types/look-notes'

/** Takes a note, or an answer, of whoever holds the address of a look. */
export async function action({ request, params, context }: Route.ActionArgs) {
  return answerProblems(async () => {
    const held = await openSharedLook(params.token)
    if (!held) throw new Problem('look-ended')
    const asked = checkInput(visitorRequest, await readJson(request))
    const { remoteAddress } = context.get(requestContext)
    const author = { name: asked.author, lookId: held.id, origin: originOf(remoteAddress) }
    if (asked.do === 'note') await writeNote(held.site.id, author, asked)
    else await answerNote(held.site.id, author, asked.id, asked.text)
    return Response.json({ notes: await listNotes(held.site.id, held.id) })
  })
}
