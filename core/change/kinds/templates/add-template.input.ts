import Joi from 'joi'
import { type ChangeInput, id, ids, longestLine, newlines, text } from '../../input'
import { type AddTemplate, mostTemplates, type WriteNewTemplate } from './add-template'

export const addTemplate: ChangeInput<AddTemplate, WriteNewTemplate> = {
  fields: {
    templateId: id,
    name: Joi.string().required().max(longestLine),
    text,
    basedOn: id.allow(null),
    forPages: ids.optional(),
    rebased: ids.optional(),
    copies: Joi.array()
      .items(
        Joi.object({ templateId: id, of: id, name: Joi.string().required().max(longestLine), forPages: ids }),
      )
      .max(mostTemplates),
  },
  reads: (request) => [{ as: 'template', text: newlines(request.text) }],
  make: async ({ text: written, ...fields }, keep) => ({
    ...fields,
    source: (await keep(newlines(written))).hash,
  }),
}
