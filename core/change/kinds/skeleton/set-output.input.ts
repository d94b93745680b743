import Joi from 'joi'
import type { Output } from '#core/site'
import type { ChangeInput } from '../../input'
import type { SetOutput } from './set-output'

export const outputInput = Joi.object<Output>({
  indent: Joi.valid('as-written', '2', '4', 'tab').required(),
  lineEnd: Joi.valid('lf', 'crlf').required(),
  comments: Joi.boolean().required(),
  links: Joi.valid('files', 'folders'),
  sitemap: Joi.valid(true),
  feed: Joi.valid(true),
}).required()

export const setOutput: ChangeInput<SetOutput> = { fields: { output: outputInput, was: outputInput } }
