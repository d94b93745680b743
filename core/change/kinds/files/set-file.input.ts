import { type ChangeInput, hash, id, newlines, text } from '../../input'
import type { SetFile, WriteFile } from './set-file'

export const setFile: ChangeInput<SetFile, WriteFile> = {
  fields: { fileId: id, text, was: hash },
  reads: (request) => [{ as: 'css', text: newlines(request.text) }],
  make: async ({ fileId, text: written, was }, keep) => ({
    fileId,
    ...(await keep(newlines(written))),
    was,
  }),
}
