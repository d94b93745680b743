import { type ChangeInput, hash, id, newlines, text } from '../../input'
import type { SetContent, WriteContent } from './set-content'

export const setContent: ChangeInput<SetContent, WriteContent> = {
  fields: { pageId: id, text, was: hash },
  reads: (request) => ({ as: 'html', text: newlines(request.text) }),
  make: async ({ pageId, text: written, was }, keep) => ({
    pageId,
    content: (await keep(newlines(written))).hash,
    was,
  }),
}
