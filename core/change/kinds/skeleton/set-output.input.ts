import Joi from 'joi'
import type { Output } from '#core/site'
import { type ChangeInput, newlines } from '../../input'
import { mostTemplates } from '../templates/add-template'
import type { SetTemplate } from '../templates/set-template'
import { setTemplate } from '../templates/set-template.input'
import type { SetOutput, WriteOutput } from './set-output'

export const outputInput = Joi.object<Output>({
  indent: Joi.valid('as-written', '2', '4', 'tab').required(),
  lineEnd: Joi.valid('lf', 'crlf').required(),
  comments: Joi.boolean().required(),
  links: Joi.valid('files', 'folders'),
  sitemap: Joi.valid(true),
  feed: Joi.valid(true),
}).required()

export const setOutput: ChangeInput<SetOutput, WriteOutput> = {
  fields: {
    output: outputInput,
    was: outputInput,
    templates: Joi.array().items(Joi.object(setTemplate.fields)).max(mostTemplates),
  },
  reads: ({ templates = [] }) => templates.map(({ text }) => ({ as: 'template', text: newlines(text) })),
  async make({ output, was, templates }, keep) {
    if (!templates) return { output, was }
    const written: SetTemplate[] = []
    for (const one of templates) written.push(await setTemplate.make!(one, keep))
    return { output, was, templates: written }
  },
}
