import { type ChangeInput, hash, id, newlines, text } from '../../input'
import type { SetTemplate, WriteTemplate } from './set-template'

export const setTemplate: ChangeInput<SetTemplate, WriteTemplate> = {
  fields: { templateId: id, text, was: hash },
  reads: (request) => [{ as: 'template', text: newlines(request.text) }],
  make: async ({ templateId, text: written, was }, keep) => ({
    templateId,
    source: (await keep(newlines(written))).hash,
    was,
  }),
}
