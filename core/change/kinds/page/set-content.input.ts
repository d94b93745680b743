import { type ChangeInput, hash, id, newlines, slot, text } from '../../input'
import type { SetContent, WriteContent } from './set-content'

export const setContent: ChangeInput<SetContent, WriteContent> = {
  fields: { pageId: id, slot, text, was: hash },
  reads: (request) => [{ as: 'html', text: newlines(request.text) }],
  make: async ({ pageId, slot: into, text: written, was }, keep) => ({
    pageId,
    ...(into !== undefined && { slot: into }),
    content: (await keep(newlines(written))).hash,
    was,
  }),
}
