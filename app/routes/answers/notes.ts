import { answerNote, listNotes, removeNote, reopenNote, settleNote, writeNote } from '#server/notes'
import { requireRight } from '#server/sites'
import { noteRequest } from '../../notes/note-input.server'
import { answerProblems, checkInput, readJson, requireSite } from '../../owner.server'
import type { Route } from './+types/notes'

/** Every note on a site. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return Response.json({ notes: await listNotes(site.id) })
}

/** Writes, answers, settles or removes a note. Whoever may look may say something of what they see. */
export async function action({ request, params }: Route.ActionArgs) {
  const { site, account, role } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const asked = checkInput(noteRequest, await readJson(request))
    const author = { name: account.name, accountId: account.id }
    if (asked.do !== 'note' && asked.do !== 'answer') requireRight(role, 'write')
    switch (asked.do) {
      case 'note':
        await writeNote(site.id, author, asked)
        break
      case 'answer':
        await answerNote(site.id, author, asked.id, asked.text)
        break
      case 'settle':
        await settleNote(site.id, asked.id, author)
        break
      case 'reopen':
        await reopenNote(site.id, asked.id)
        break
      case 'remove':
        await removeNote(site.id, asked.id)
    }
    return Response.json({ notes: await listNotes(site.id) })
  })
}
